package ancora.app.store;

import org.springframework.stereotype.Component;

/**
 * All that brings things to the disk.
 *
 * @param journals what was done, in files
 * @param journal writes them
 * @param saving brings them into the database, behind them
 * @param lamp says when the disk takes nothing
 */
@Component
public record Disk(Journals journals, JournalWriter journal, Saving saving, DiskLamp lamp) {}
