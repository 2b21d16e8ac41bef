package ancora.app.store;

import ancora.app.journal.ShowJson;
import ancora.app.store.Rows.ClipRow;
import ancora.app.store.Rows.LayerRow;
import ancora.app.store.Rows.NoteRow;
import ancora.app.store.Rows.PartRow;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.engine.Stage;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.show.Click;
import ancora.core.show.LengthRule;
import ancora.core.show.Names;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Keeps shows, and the journal of what was done to them. */
@Repository
public class ShowStore {

  private static final int NOTES_AT_A_TIME = 400;

  private final ShowMapper mapper;
  private final Rests rests;

  ShowStore(ShowMapper mapper, Rests rests) {
    this.mapper = mapper;
    this.rests = rests;
  }

  /**
   * A show as it stood at its last standstill.
   *
   * @param stage the show, and what stands ready in it
   * @param seq the journal leads on after this
   */
  public record Saved(Stage stage, long seq) {}

  /** All shows, last opened first. */
  public List<ShowCard> cards() {
    return mapper.cards();
  }

  public boolean hasDemo() {
    return mapper.hasDemo();
  }

  /** Adds a show and gives its number. */
  @Transactional
  public long add(Show show, boolean demo) {
    ShowMapper.NewId key = new ShowMapper.NewId();
    mapper.insertShow(row(0, show, 0), demo, key);
    mapper.saveOrigin(key.id, ShowJson.write(show).toString());
    show.parts().forEach(part -> savePart(key.id, part, show.parts().indexOf(part), null));
    return key.id;
  }

  /** The show with a number, if there is one. */
  @Transactional
  public Optional<Saved> find(long id) {
    ShowRow row = mapper.show(id);
    return row == null
        ? Optional.empty()
        : Optional.of(new Saved(rests.stage(read(row), mapper.rest(id)), row.baseSeq()));
  }

  /**
   * Saves a stage at standstill.
   *
   * @param before what was saved last, if that is known: only what differs from it is written
   * @param seq the last command that is in it
   */
  @Transactional
  public void save(long id, Stage stage, Optional<Show> before, long seq) {
    Show show = stage.show();
    mapper.updateShow(row(id, show, seq));
    mapper.saveRest(id, rests.json(stage));
    if (before.isEmpty()) {
      mapper.deleteParts(id);
    }
    Map<PartId, Part> old =
        before.map(Show::parts).orElse(List.of()).stream()
            .collect(Collectors.toMap(Part::id, Function.identity()));
    for (int place = 0; place < show.parts().size(); place++) {
      Part part = show.parts().get(place);
      savePart(id, part, place, old.remove(part.id()));
    }
    old.keySet().forEach(gone -> mapper.deletePart(id, gone.value()));
  }

  /** Gives a show that is not open another name. */
  public void rename(long id, String title) {
    mapper.rename(id, Names.checked("show", title));
  }

  /** Takes a show off the list, or puts it back; refuses if there is none. */
  public void setDeleted(long id, boolean deleted) {
    Refusal.unless(
        mapper.setDeleted(id, deleted) == 1, "There is no such show: choose one from the list.");
  }

  /** Lets go for good of shows that were taken off the list, with their journals. */
  public void forgetDeleted() {
    mapper.forgetDeleted();
  }

  public void opened(long id, long micros) {
    mapper.opened(id, micros);
  }

  /** Notes that a page has the show open at an instant. */
  public void seen(long id, long micros) {
    mapper.seen(id, micros);
  }

  public long seenAt(long id) {
    return mapper.seenAt(id);
  }

  /** Writes accepted commands; when this returns they are on disk. */
  @Transactional
  public void append(List<JournalRow> rows) {
    mapper.insertJournal(rows);
  }

  public List<JournalRow> journalAfter(long showId, long seq) {
    return mapper.journalAfter(showId, seq);
  }

  public long lastSeq(long showId) {
    return mapper.lastSeq(showId);
  }

  /** The show as it was when it was made, as JSON. */
  public String origin(long showId) {
    return mapper.origin(showId);
  }

  /** The highest number accepted from each page. */
  public Map<String, Long> lastOfEachClient(long showId) {
    Map<String, Long> last = new HashMap<>();
    mapper
        .lastOfEachClient(showId)
        .forEach(
            row -> last.put((String) row.get("client"), ((Number) row.get("last")).longValue()));
    return last;
  }

  private void savePart(long showId, Part part, int place, Part before) {
    InputGrid grid = part.inputGrid();
    mapper.mergePart(
        new PartRow(
            showId,
            part.id().value(),
            place,
            part.name(),
            part.sound().drums(),
            part.sound().program(),
            grid.grid().name(),
            grid.strength(),
            grid.swing(),
            grid.endsToo()));
    List<Clip> old = before == null ? List.of() : before.shelf();
    for (Clip gone : old) {
      if (!part.shelf().contains(gone)) {
        mapper.deleteClip(showId, gone.id().value());
      }
    }
    for (Clip clip : part.shelf()) {
      if (!old.contains(clip)) {
        insertClip(showId, part, clip);
      }
    }
  }

  private void insertClip(long showId, Part part, Clip clip) {
    int id = clip.id().value();
    mapper.deleteClip(showId, id);
    mapper.insertClip(
        new ClipRow(
            showId,
            id,
            part.id().value(),
            clip.letter(),
            clip.window().start(),
            clip.window().length(),
            clip.ring()));
    List<NoteRow> notes = new ArrayList<>();
    insertLayers(showId, id, clip.layers(), false, notes);
    insertLayers(showId, id, clip.peeled(), true, notes);
    for (int from = 0; from < notes.size(); from += NOTES_AT_A_TIME) {
      mapper.insertNotes(notes.subList(from, Math.min(notes.size(), from + NOTES_AT_A_TIME)));
    }
  }

  private void insertLayers(
      long showId, int clipId, List<Layer> layers, boolean peeled, List<NoteRow> notes) {
    for (int place = 0; place < layers.size(); place++) {
      Layer layer = layers.get(place);
      mapper.insertLayer(new LayerRow(showId, clipId, peeled, place, layer.number()));
      for (int i = 0; i < layer.notes().size(); i++) {
        Note n = layer.notes().get(i);
        notes.add(
            new NoteRow(
                showId,
                clipId,
                peeled,
                place,
                i,
                n.id(),
                n.pitch(),
                n.velocity(),
                n.played(),
                n.meant(),
                n.length()));
      }
    }
  }

  private Show read(ShowRow row) {
    Map<Integer, List<ClipRow>> clips =
        mapper.clips(row.id()).stream().collect(Collectors.groupingBy(ClipRow::partId));
    Map<Integer, List<LayerRow>> layers =
        mapper.layers(row.id()).stream().collect(Collectors.groupingBy(LayerRow::clipId));
    Map<List<Object>, List<NoteRow>> notes =
        mapper.notes(row.id()).stream()
            .collect(Collectors.groupingBy(n -> List.of(n.clipId(), n.peeled(), n.layer())));
    List<Part> parts = new ArrayList<>();
    for (PartRow part : mapper.parts(row.id())) {
      List<Clip> shelf =
          clips.getOrDefault(part.id(), List.of()).stream()
              .map(clip -> clip(clip, layers.getOrDefault(clip.id(), List.of()), notes))
              .toList();
      parts.add(
          new Part(
              new PartId(part.id()),
              part.name(),
              new Sound(part.drums(), part.program()),
              new InputGrid(
                  Grid.valueOf(part.grid()), part.strength(), part.swing(), part.endsToo()),
              shelf));
    }
    return new Show(
        row.title(),
        new Tempo(row.milliBpm()),
        Meter.of(row.meterBeats(), row.meterUnit()),
        new Click(
            row.clickOn(),
            Click.When.valueOf(row.clickWhen()),
            Click.Sound.valueOf(row.clickSound()),
            row.clickLevel(),
            row.clickDotted()),
        new RecordingSettings(
            EntryUnit.valueOf(row.entersOn()),
            EntryUnit.valueOf(row.closesOn()),
            new Forgiveness(row.forgiveness()),
            LengthRule.valueOf(row.lengthRule()),
            row.fixedUnits(),
            row.overdubAfter(),
            row.countInBars(),
            row.fromFirst()),
        parts,
        row.nextId());
  }

  private static Clip clip(
      ClipRow row, List<LayerRow> layers, Map<List<Object>, List<NoteRow>> notes) {
    return new Clip(
        new ClipId(row.id()),
        row.letter(),
        new LoopWindow(row.windowStart(), row.windowLength()),
        row.ring(),
        layers(layers, false, notes),
        layers(layers, true, notes));
  }

  private static List<Layer> layers(
      List<LayerRow> rows, boolean peeled, Map<List<Object>, List<NoteRow>> notes) {
    return rows.stream()
        .filter(row -> row.peeled() == peeled)
        .map(
            row ->
                new Layer(
                    row.number(),
                    notes
                        .getOrDefault(List.of(row.clipId(), peeled, row.place()), List.of())
                        .stream()
                        .map(
                            n ->
                                Note.of(
                                    n.id(),
                                    n.pitch(),
                                    n.velocity(),
                                    n.played(),
                                    n.meant(),
                                    n.length()))
                        .toList()))
        .toList();
  }

  private static ShowRow row(long id, Show show, long seq) {
    Click click = show.click();
    RecordingSettings recording = show.recording();
    return new ShowRow(
        id,
        show.title(),
        show.tempo().milliBpm(),
        show.meter().beats(),
        show.meter().unit(),
        click.on(),
        click.when().name(),
        click.sound().name(),
        click.level(),
        click.dotted(),
        recording.entersOn().name(),
        recording.closesOn().name(),
        recording.forgiveness().millis(),
        recording.lengthRule().name(),
        recording.fixedUnits(),
        recording.overdubAfter(),
        recording.countInBars(),
        recording.fromFirstNote(),
        show.nextId(),
        seq);
  }
}
