/**
 * The rules of Ancora: deterministic, free of threads, clocks, sockets and storage, tested in
 * virtual time. Times are whole microseconds of server time, places are ticks at 960 to the quarter
 * note.
 */
package ancora.core;
