package ancora.core.stage;

import ancora.core.time.TempoMap;

/**
 * The run of the transport that ended last.
 *
 * @param map which tick was heard when
 * @param ended the instant at which it was stopped, in microseconds
 */
public record PastRun(TempoMap map, long ended) {}
