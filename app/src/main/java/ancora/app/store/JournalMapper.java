package ancora.app.store;

import org.apache.ibatis.annotations.Insert;

/** Writes the journal: one statement, prepared once, for as many lines as a transaction has. */
interface JournalMapper {

  @Insert(
      """
      merge into journal (show_id, seq, stamp_us, applied_us, client, client_seq, command, rules,
        long_command) key (show_id, seq)
      values (#{showId}, #{seq}, #{stampUs}, #{appliedUs}, #{client}, #{clientSeq}, #{inRow},
        #{rules}, #{apart,jdbcType=CLOB})""")
  void merge(JournalRow row);
}
