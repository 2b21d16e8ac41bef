package ancora.app.store;

import java.util.List;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The table of runs. */
interface RunMapper {

  /** A run, whole. */
  record RunRow(
      long showId,
      int id,
      long beganUs,
      String name,
      int bars,
      long lastsUs,
      String sections,
      boolean underway,
      String performed,
      String done,
      String undone) {}

  @Select(
      """
      select id, began_us, name, bars, lasts_us, sections, underway
      from runs where show_id = #{showId} order by began_us desc, id desc""")
  List<RunCard> cards(long showId);

  @Select(
      """
      select show_id, id, began_us, name, bars, lasts_us, sections, underway, performed, done,
        undone
      from runs where show_id = #{showId} and id = #{id}""")
  RunRow run(@Param("showId") long showId, @Param("id") int id);

  @Select("select name from runs where show_id = #{showId} and id = #{id}")
  String nameOf(@Param("showId") long showId, @Param("id") int id);

  @Select("select coalesce(max(id), 0) + 1 from runs where show_id = #{showId}")
  int nextId(long showId);

  @Insert(
      """
      merge into runs key (show_id, id) values (#{showId}, #{id}, #{beganUs}, #{name}, #{bars},
        #{lastsUs}, #{sections}, #{underway}, #{performed}, #{done}, #{undone})""")
  void merge(RunRow row);

  @Update("update runs set name = #{name} where show_id = #{showId} and id = #{id}")
  int rename(@Param("showId") long showId, @Param("id") int id, @Param("name") String name);

  @Delete("delete from runs where show_id = #{showId} and id = #{id}")
  int delete(@Param("showId") long showId, @Param("id") int id);

  /** Lets go of those without a name, but for the newest. */
  @Delete(
      """
      delete from runs where show_id = #{showId} and name = '' and id not in (
        select id from runs where show_id = #{showId} and name = ''
        order by began_us desc, id desc limit #{kept})""")
  void forget(@Param("showId") long showId, @Param("kept") int kept);
}
