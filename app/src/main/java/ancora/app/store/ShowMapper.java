package ancora.app.store;

import ancora.app.store.Rows.ClipRow;
import ancora.app.store.Rows.EditRow;
import ancora.app.store.Rows.PageRow;
import ancora.app.store.Rows.PartRow;
import java.util.List;
import java.util.Map;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The tables of shows. */
interface ShowMapper {

  @Select(
      """
      select s.id, s.title, s.milli_bpm, s.meter_beats, s.meter_unit,
        (select count(*) from parts p where p.show_id = s.id) as parts,
        (select count(*) from clips c where c.show_id = s.id) as clips,
        s.opened_us, s.deleted_us
      from shows s where s.deleted = #{deleted} order by s.opened_us desc, s.id desc""")
  List<ShowCard> cards(boolean deleted);

  @Select("select settings from shows where id = #{id}")
  String settings(long id);

  @Select(
      """
      select id, title, milli_bpm, meter_beats, meter_unit, settings, next_id, base_seq
      from shows where id = #{id} and not deleted""")
  ShowRow show(long id);

  /** A show, even if it was taken off the list. */
  @Select(
      """
      select id, title, milli_bpm, meter_beats, meter_unit, settings, next_id, base_seq
      from shows where id = #{id}""")
  ShowRow showOf(long id);

  @Select("select count(*) > 0 from shows where demo")
  boolean hasDemo();

  @Insert(
      """
      insert into shows (id, title, milli_bpm, meter_beats, meter_unit, settings, next_id)
      values (#{id}, #{title}, #{milliBpm}, #{meterBeats}, #{meterUnit},
        #{settings}, #{nextId})""")
  void insertShow(ShowRow row);

  @Update("update shows set demo = #{demo} where id = #{id}")
  void setDemo(@Param("id") long id, @Param("demo") boolean demo);

  /** The highest number that a show has, or had; 0 where there is none. */
  @Select("select coalesce(max(id), 0) from shows")
  long lastId();

  /** All shows, those that were taken off the list too. */
  @Select("select id from shows order by id")
  List<Long> all();

  /** Shows that were taken off the list before an instant, in microseconds since 1970. */
  @Select("select id from shows where deleted and deleted_us < #{micros}")
  List<Long> deletedBefore(long micros);

  @Update("update shows set clients = #{clients} where id = #{id}")
  void saveClients(@Param("id") long id, @Param("clients") String clients);

  @Select("select clients from shows where id = #{id}")
  String clients(long id);

  @Update(
      """
      update shows set title = #{title}, milli_bpm = #{milliBpm}, meter_beats = #{meterBeats},
        meter_unit = #{meterUnit}, settings = #{settings}, next_id = #{nextId},
        base_seq = #{baseSeq}
      where id = #{id}""")
  int updateShow(ShowRow row);

  @Update("update shows set origin = #{origin} where id = #{id}")
  void saveOrigin(@Param("id") long id, @Param("origin") String origin);

  @Insert("merge into house key (name) values (#{name}, #{body})")
  void keepInHouse(@Param("name") String name, @Param("body") String body);

  @Select("select body from house where name = #{name}")
  String fromHouse(String name);

  @Select("select origin from shows where id = #{id}")
  String origin(long id);

  @Update("update shows set rest = #{rest} where id = #{id}")
  void saveRest(@Param("id") long id, @Param("rest") String rest);

  @Select("select rest from shows where id = #{id}")
  String rest(long id);

  @Update("update shows set title = #{title} where id = #{id}")
  void rename(@Param("id") long id, @Param("title") String title);

  @Update("update shows set opened_us = #{micros} where id = #{id}")
  void opened(@Param("id") long id, @Param("micros") long micros);

  @Update("update shows set seen_us = #{micros} where id = #{id}")
  void seen(@Param("id") long id, @Param("micros") long micros);

  @Select("select seen_us from shows where id = #{id}")
  long seenAt(long id);

  @Update("update shows set deleted = #{deleted}, deleted_us = #{micros} where id = #{id}")
  int setDeleted(
      @Param("id") long id, @Param("deleted") boolean deleted, @Param("micros") long micros);

  @Delete("delete from shows where id = #{id}")
  void forget(long id);

  @Select("select show_id, id, place, body from parts where show_id = #{showId} order by place")
  List<PartRow> parts(long showId);

  @Select(
      """
      select show_id, id, part_id, place, body
      from clips where show_id = #{showId} order by part_id, place""")
  List<ClipRow> clips(long showId);

  /** The clips that have a sound of their own out of a sound bank: few, of however many. */
  @Select("select body from clips where show_id = #{showId} and body like '%\"bank\":\"%'")
  List<String> clipsWithBanks(long showId);

  @Insert("merge into parts key (show_id, id) values (#{showId}, #{id}, #{place}, #{body})")
  void mergePart(PartRow row);

  @Delete("delete from parts where show_id = #{showId} and id = #{id}")
  void deletePart(@Param("showId") long showId, @Param("id") int id);

  @Delete("delete from parts where show_id = #{showId}")
  void deleteParts(long showId);

  /** Takes a clip off the shelf of a part: on that of another it stays. */
  @Delete("delete from clips where show_id = #{showId} and part_id = #{part} and id = #{id}")
  void deleteClip(@Param("showId") long showId, @Param("part") int part, @Param("id") int id);

  @Insert(
      """
      merge into clips (show_id, id, part_id, place, body) key (show_id, id)
      values (#{showId}, #{id}, #{partId}, #{place}, #{body})""")
  void mergeClip(ClipRow row);

  @Select(
      """
      select show_id, undone, place, body
      from edits where show_id = #{showId} and undone = #{undone} order by place""")
  List<EditRow> edits(@Param("showId") long showId, @Param("undone") boolean undone);

  @Select(
      """
      select coalesce(min(place), 0)
      from edits where show_id = #{showId} and undone = #{undone}""")
  int firstEdit(@Param("showId") long showId, @Param("undone") boolean undone);

  /** Deletes steps before a place, and from another one on. */
  @Delete(
      """
      delete from edits where show_id = #{showId} and undone = #{undone}
        and (place < #{before} or place >= #{from})""")
  void deleteEdits(
      @Param("showId") long showId,
      @Param("undone") boolean undone,
      @Param("before") int before,
      @Param("from") int from);

  @Select(
      """
      select show_id, part_id, first_note, body
      from hindsight where show_id = #{showId} order by part_id, first_note""")
  List<PageRow> pages(long showId);

  @Insert(
      """
      merge into hindsight key (show_id, part_id, first_note)
      values (#{showId}, #{partId}, #{firstNote}, #{body})""")
  void mergePage(PageRow row);

  @Delete(
      """
      delete from hindsight
      where show_id = #{showId} and part_id = #{partId} and first_note = #{firstNote}""")
  void deletePage(
      @Param("showId") long showId,
      @Param("partId") int partId,
      @Param("firstNote") long firstNote);

  @Delete("delete from hindsight where show_id = #{showId}")
  void deletePages(long showId);

  /** All that has been written is brought to the disk itself. */
  @Update("checkpoint sync")
  void sync();

  @Insert("insert into edits values (#{showId}, #{undone}, #{place}, #{body})")
  void insertEdit(EditRow row);

  @Select(
      """
      select seq, stamp_us, applied_us, client, client_seq,
        coalesce(long_command, command) as command, rules
      from journal where show_id = #{showId} and seq > #{after} order by seq limit #{most}""")
  List<JournalRow> oldJournal(
      @Param("showId") long showId, @Param("after") long after, @Param("most") int most);

  @Delete("delete from journal where show_id = #{showId}")
  void deleteOldJournal(long showId);

  /** The latest instant at which a page was there, in any show. */
  @Select("select coalesce(max(seen_us), 0) from shows")
  long lastSeen();

  /** The highest number that each page has had accepted; those seen last come last. */
  @Select(
      """
      select client as "client", max(client_seq) as "last"
      from journal where show_id = #{showId} group by client order by max(seq)""")
  List<Map<String, Object>> lastOfEachClient(long showId);
}
