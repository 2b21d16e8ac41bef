package ancora.core.show;

/** Identifies a section within its show. */
public record SectionId(int value) {}
