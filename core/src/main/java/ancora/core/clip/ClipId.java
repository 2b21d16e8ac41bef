package ancora.core.clip;

/** Identifies a clip within its show. */
public record ClipId(int value) {}
