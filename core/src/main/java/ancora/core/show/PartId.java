package ancora.core.show;

/** Identifies a part within its show. */
public record PartId(int value) {}
