package ancora.core.rules.cues;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.cues.Cues.Asked;
import ancora.core.show.Letters;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.stage.FormStage;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.EntryUnit;
import ancora.core.vamp.Cue;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Going through the form: sections cued, entered, made and changed. */
public final class Forms {

  private Forms() {}

  /**
   * A section enters at the next entry point; what is cued already is called off. Of the one that
   * sounds all clips enter once more, and its bars are counted anew.
   */
  public static Result cue(Stage stage, SectionId id, Moment moment) {
    Section section = stage.show().section(id);
    if (stage.map().isEmpty()) {
      return Result.to(standReady(stage, section));
    }
    boolean again = stage.form().next().map(next -> next.section().equals(id)).orElse(false);
    if (again) {
      return Result.to(calledOff(stage, moment), "Section " + section.letter() + " is called off.");
    }
    EntryUnit unit = stage.show().recording().entersOn();
    long at = Cues.boundary(stage, unit, moment);
    return cueAt(stage, section, new Asked(at, unit), false, moment);
  }

  /** The section that is cued does not come; parts that it cued go on as they would without. */
  static Stage calledOff(Stage stage, Moment moment) {
    if (stage.form().next().isEmpty()) {
      return stage;
    }
    Optional<SectionId> section = stage.form().next().map(FormStage.Next::section);
    return stage
        .forEachPart(
            (s, part) ->
                s.on(part).cue().filter(cue -> cue.by().equals(section)).isPresent()
                    ? Cues.calledOff(s, part, moment)
                    : s)
        .withForm(stage.form().withNext(Optional.empty()));
  }

  /** The section that is due is entered. */
  public static Stage enter(Stage stage) {
    FormStage.Next next = stage.form().next().orElseThrow();
    return enter(stage, stage.show().section(next.section()), next.at());
  }

  /** A section is where the performance is from a tick on; it may lead on by itself. */
  static Stage enter(Stage stage, Section section, long from) {
    Stage entered =
        stage.withForm(new FormStage(Optional.of(section.id()), from, Optional.empty()));
    Optional<Section.GoesOn> goesOn = section.goesOn();
    Optional<Section> to =
        goesOn.flatMap(
            g -> stage.show().form().stream().filter(s -> s.id().equals(g.to())).findFirst());
    if (to.isEmpty()) {
      return entered;
    }
    long at = from + goesOn.get().bars() * stage.show().meter().barTicks();
    long micros = Math.round(stage.map().orElseThrow().microsOf(from));
    Moment then = new Moment(micros, micros, micros);
    return cueAt(entered, to.get(), new Asked(at, EntryUnit.BAR), true, then).stage();
  }

  private static Result cueAt(
      Stage stage, Section section, Asked asked, boolean byItself, Moment moment) {
    long at = asked.boundary();
    boolean onceMore = !byItself && stage.form().now().equals(Optional.of(section.id()));
    Stage next = calledOff(stage, moment);
    Optional<String> word = Optional.empty();
    for (Part part : stage.show().parts()) {
      PartId id = part.id();
      Optional<ClipId> clip = section.lineUp().get(id);
      boolean named = clip != null;
      if (!named && !section.othersTacet()) {
        continue;
      }
      Optional<Clip> enters = named ? clip.flatMap(part::clip) : Optional.empty();
      Optional<Cue> before = next.on(id).cue();
      boolean silent = next.on(id).vamp().isEmpty() && next.on(id).first().isEmpty();
      if (enters.isEmpty() && silent) {
        next = byItself ? next : next.mapOn(id, on -> on.withCue(Optional.empty()));
        continue;
      }
      boolean recordsLater =
          byItself && next.on(id).first().filter(f -> f.start() > at).isPresent();
      Stage asIs = next;
      Stage bare = recordsLater ? next.mapOn(id, on -> on.withFirst(Optional.empty())) : next;
      Stage free = bare.mapOn(id, on -> on.withCue(Optional.empty()));
      boolean vamps =
          enters.isPresent()
              && free.on(id).vamp().map(Vamp::clip).equals(enters.map(Clip::id))
              && free.on(id).first().isEmpty();
      Result result =
          vamps && onceMore
              ? Result.to(Cues.onceMore(free, id, enters.get(), asked, moment))
              : Cues.set(free, id, enters, asked, moment);
      next =
          result
              .stage()
              .mapOn(
                  id,
                  on ->
                      on.withCue(
                          on.cue()
                              .map(cue -> cue.by(section.id(), byItself, before))
                              .or(() -> before.filter(b -> byItself && b.at() > at))));
      if (recordsLater) {
        next = next.mapOn(id, on -> on.withFirst(asIs.on(id).first()));
      }
      word = word.or(result::word);
    }
    return new Result(
        next.withForm(next.form().withNext(Optional.of(new FormStage.Next(section.id(), at)))),
        word);
  }

  /** The section that stands ready with all that it names, at standstill. */
  static Optional<Section> standingReady(Stage stage) {
    return stage.show().form().stream()
        .filter(section -> stage.form().now().equals(Optional.of(section.id())))
        .filter(
            section ->
                section.lineUp().entrySet().stream()
                    .allMatch(named -> stage.on(named.getKey()).ready().equals(named.getValue())))
        .findFirst();
  }

  /** A section stands ready, at standstill. */
  public static Stage standReady(Stage stage, Section section) {
    Stage next = stage;
    for (Part part : stage.show().parts()) {
      Optional<ClipId> clip = section.lineUp().get(part.id());
      boolean named = clip != null;
      if (named || section.othersTacet()) {
        Optional<ClipId> ready = named ? clip : Optional.empty();
        next = next.mapOn(part.id(), on -> on.withReady(ready));
      }
    }
    return next.withForm(new FormStage(Optional.of(section.id()), 0, Optional.empty()));
  }

  /** Makes a section of what sounds, or stands ready, now; the other parts are tacet in it. */
  public static Stage make(Stage stage, String name) {
    Show show = stage.show();
    Map<PartId, Optional<ClipId>> lineUp = new TreeMap<>();
    for (Part part : show.parts()) {
      PartStage on = stage.on(part.id());
      lineUp.put(part.id(), stage.map().isPresent() ? on.vamp().map(Vamp::clip) : on.ready());
    }
    Section section =
        new Section(show.nextSectionId(), freeLetter(show), name, lineUp, false, Optional.empty());
    List<Section> form = new ArrayList<>(show.form());
    form.add(section);
    return stage.withShow(show.withForm(form).withNextId(show.nextId() + 1));
  }

  /** Puts a section in the place of the one with its id; its letter stays. */
  public static Stage set(Stage stage, Section section) {
    Show show = stage.show();
    String letter = show.section(section.id()).letter();
    section
        .lineUp()
        .forEach(
            (id, clip) -> {
              Part part = show.part(id);
              clip.ifPresent(part::clipOf);
            });
    section.goesOn().ifPresent(goesOn -> show.section(goesOn.to()));
    return stage.withShow(
        show.withForm(
            show.form().stream()
                .map(s -> s.id().equals(section.id()) ? section.withLetter(letter) : s)
                .toList()));
  }

  public static Stage delete(Stage stage, SectionId id, Moment moment) {
    stage.show().section(id);
    Stage next =
        stage.form().next().map(n -> n.section().equals(id)).orElse(false)
            ? calledOff(stage, moment)
            : stage;
    List<Section> form =
        stage.show().form().stream()
            .filter(section -> !section.id().equals(id))
            .map(
                section ->
                    section.withGoesOn(section.goesOn().filter(goesOn -> !goesOn.to().equals(id))))
            .toList();
    FormStage now = next.form();
    return next.withShow(next.show().withForm(form))
        .withForm(new FormStage(now.now().filter(s -> !s.equals(id)), now.since(), now.next()));
  }

  /** Moves a section to a place in the form, from 0. */
  public static Stage move(Stage stage, SectionId id, int place) {
    Section section = stage.show().section(id);
    List<Section> form = new ArrayList<>(stage.show().form());
    form.remove(section);
    form.add(Math.max(0, Math.min(place, form.size())), section);
    return stage.withShow(stage.show().withForm(form));
  }

  private static String freeLetter(Show show) {
    return Letters.free(
        'A', letter -> show.form().stream().anyMatch(section -> section.letter().equals(letter)));
  }
}
