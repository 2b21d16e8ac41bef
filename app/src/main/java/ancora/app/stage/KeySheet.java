package ancora.app.stage;

import ancora.core.control.Assignment;
import ancora.core.control.Control;
import ancora.core.control.ControlMap;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What the keys of the computer stand for, as a sheet to be read. */
final class KeySheet {

  private KeySheet() {}

  /**
   * A row of the sheet.
   *
   * @param keys by their places
   * @param words what they do
   */
  public record Row(List<String> keys, String words) {}

  /** By what they do; letters that cue clips and sections are a row of the template's own. */
  static List<Row> of(ControlMap map) {
    Map<String, List<String>> rows = new LinkedHashMap<>();
    for (Assignment assignment : map.assignments()) {
      Control control = assignment.control();
      boolean letter =
          control.key().matches("(Alt|Shift) Key.") && assignment.words().startsWith("cue ");
      if (control.kind() == Control.Kind.KEY && !letter) {
        rows.computeIfAbsent(assignment.words(), words -> new ArrayList<>()).add(control.key());
      }
    }
    return rows.entrySet().stream().map(row -> new Row(row.getValue(), row.getKey())).toList();
  }
}
