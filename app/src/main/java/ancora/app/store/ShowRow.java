package ancora.app.store;

/** A row of the table shows; what the list of shows does not need is JSON. */
public record ShowRow(
    Long id,
    String title,
    int milliBpm,
    int meterBeats,
    int meterUnit,
    String settings,
    long nextId,
    long baseSeq) {}
