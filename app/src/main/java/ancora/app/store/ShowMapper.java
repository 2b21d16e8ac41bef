package ancora.app.store;

import ancora.app.store.Rows.ClipRow;
import ancora.app.store.Rows.LayerRow;
import ancora.app.store.Rows.NoteRow;
import ancora.app.store.Rows.PartRow;
import java.util.List;
import java.util.Map;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The tables of shows. */
@Mapper
interface ShowMapper {

  /** A key that the database hands out. */
  final class NewId {
    Long id;
  }

  @Select(
      """
      select s.id, s.title, s.milli_bpm, s.meter_beats, s.meter_unit,
        (select count(*) from parts p where p.show_id = s.id) as parts,
        (select count(*) from clips c where c.show_id = s.id) as clips,
        s.opened_us
      from shows s where not s.deleted order by s.opened_us desc, s.id desc""")
  List<ShowCard> cards();

  @Select(
      """
      select id, title, milli_bpm, meter_beats, meter_unit, click_on, click_when, click_sound,
        click_level, click_dotted, enters_on, closes_on, forgiveness, length_rule, fixed_units,
        overdub_after, count_in_bars, from_first, next_id, base_seq
      from shows where id = #{id} and not deleted""")
  ShowRow show(long id);

  @Select("select count(*) > 0 from shows where demo")
  boolean hasDemo();

  @Insert(
      """
      insert into shows (title, milli_bpm, meter_beats, meter_unit, click_on, click_when,
        click_sound, click_level, click_dotted, enters_on, closes_on, forgiveness, length_rule,
        fixed_units, overdub_after, count_in_bars, from_first, next_id, demo)
      values (#{row.title}, #{row.milliBpm}, #{row.meterBeats}, #{row.meterUnit}, #{row.clickOn},
        #{row.clickWhen}, #{row.clickSound}, #{row.clickLevel}, #{row.clickDotted},
        #{row.entersOn}, #{row.closesOn}, #{row.forgiveness}, #{row.lengthRule},
        #{row.fixedUnits}, #{row.overdubAfter}, #{row.countInBars}, #{row.fromFirst},
        #{row.nextId}, #{demo})""")
  @Options(useGeneratedKeys = true, keyProperty = "key.id", keyColumn = "id")
  void insertShow(@Param("row") ShowRow row, @Param("demo") boolean demo, @Param("key") NewId key);

  @Update(
      """
      update shows set title = #{title}, milli_bpm = #{milliBpm}, meter_beats = #{meterBeats},
        meter_unit = #{meterUnit}, click_on = #{clickOn}, click_when = #{clickWhen},
        click_sound = #{clickSound}, click_level = #{clickLevel}, click_dotted = #{clickDotted},
        enters_on = #{entersOn}, closes_on = #{closesOn}, forgiveness = #{forgiveness},
        length_rule = #{lengthRule}, fixed_units = #{fixedUnits},
        overdub_after = #{overdubAfter}, count_in_bars = #{countInBars},
        from_first = #{fromFirst}, next_id = #{nextId}, base_seq = #{baseSeq}
      where id = #{id}""")
  void updateShow(ShowRow row);

  @Update("update shows set origin = #{origin} where id = #{id}")
  void saveOrigin(@Param("id") long id, @Param("origin") String origin);

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

  @Update("update shows set deleted = #{deleted} where id = #{id}")
  int setDeleted(@Param("id") long id, @Param("deleted") boolean deleted);

  @Delete("delete from shows where deleted")
  void forgetDeleted();

  @Select(
      """
      select show_id, id, place, name, drums, program, grid, strength, swing, ends_too
      from parts where show_id = #{showId} order by place""")
  List<PartRow> parts(long showId);

  @Select(
      """
      select show_id, id, part_id, letter, window_start, window_length, ring
      from clips where show_id = #{showId} order by letter""")
  List<ClipRow> clips(long showId);

  @Select(
      """
      select show_id, clip_id, peeled, place, number
      from layers where show_id = #{showId} order by clip_id, peeled, place""")
  List<LayerRow> layers(long showId);

  @Select(
      """
      select show_id, clip_id, peeled, layer, place, id, pitch, velocity, played, meant, length
      from notes where show_id = #{showId} order by clip_id, peeled, layer, place""")
  List<NoteRow> notes(long showId);

  @Insert(
      """
      merge into parts key (show_id, id) values (#{showId}, #{id}, #{place}, #{name}, #{drums},
        #{program}, #{grid}, #{strength}, #{swing}, #{endsToo})""")
  void mergePart(PartRow row);

  @Delete("delete from parts where show_id = #{showId} and id = #{id}")
  void deletePart(@Param("showId") long showId, @Param("id") int id);

  @Delete("delete from parts where show_id = #{showId}")
  void deleteParts(long showId);

  @Delete("delete from clips where show_id = #{showId} and id = #{id}")
  void deleteClip(@Param("showId") long showId, @Param("id") int id);

  @Insert(
      """
      insert into clips values (#{showId}, #{id}, #{partId}, #{letter}, #{windowStart},
        #{windowLength}, #{ring})""")
  void insertClip(ClipRow row);

  @Insert("insert into layers values (#{showId}, #{clipId}, #{peeled}, #{place}, #{number})")
  void insertLayer(LayerRow row);

  @Insert(
      """
      <script>insert into notes values
      <foreach item="n" collection="notes" separator=",">
        (#{n.showId}, #{n.clipId}, #{n.peeled}, #{n.layer}, #{n.place}, #{n.id}, #{n.pitch},
         #{n.velocity}, #{n.played}, #{n.meant}, #{n.length})
      </foreach></script>""")
  void insertNotes(@Param("notes") List<NoteRow> notes);

  @Insert(
      """
      <script>insert into journal values
      <foreach item="r" collection="rows" separator=",">
        (#{r.showId}, #{r.seq}, #{r.stampUs}, #{r.appliedUs}, #{r.client}, #{r.clientSeq},
         #{r.command})
      </foreach></script>""")
  void insertJournal(@Param("rows") List<JournalRow> rows);

  @Select(
      """
      select show_id, seq, stamp_us, applied_us, client, client_seq, command
      from journal where show_id = #{showId} and seq > #{after} order by seq""")
  List<JournalRow> journalAfter(@Param("showId") long showId, @Param("after") long after);

  @Select("select coalesce(max(seq), 0) from journal where show_id = #{showId}")
  long lastSeq(long showId);

  /** The highest number that each page has had accepted. */
  @Select(
      """
      select client as "client", max(client_seq) as "last"
      from journal where show_id = #{showId} group by client""")
  List<Map<String, Object>> lastOfEachClient(long showId);
}
