package ancora.app.store;

/** A row of the table shows. */
public record ShowRow(
    Long id,
    String title,
    int milliBpm,
    int meterBeats,
    int meterUnit,
    boolean clickOn,
    String clickWhen,
    String clickSound,
    int clickLevel,
    boolean clickDotted,
    String entersOn,
    String closesOn,
    int forgiveness,
    String lengthRule,
    int fixedUnits,
    boolean overdubAfter,
    int countInBars,
    boolean fromFirst,
    long nextId,
    long baseSeq) {}
