package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.history.Change;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Steps as they are kept, and as they were kept when each kind of change was one of its own. */
class ChangeJsonTest {

  private static final PartId KIT = new PartId(1);
  private static final ClipId A = new ClipId(10);
  private static final Note HIT = Note.of(100, 36, 90, 0, 0, 60);
  private static final Note LATER = Note.of(101, 38, 90, 960, 960, 60);

  private static Show show() {
    Layer first = new Layer(1, List.of(HIT, LATER));
    Take one = Take.of(1, List.of(first, Layer.empty(2), Layer.empty(3)));
    Clip clip =
        Clip.of(A, "a", new LoopWindow(0, 3840), List.of())
            .withTakes(List.of(one, Take.of(2, List.of(new Layer(1, List.of(HIT.withId(200)))))))
            .withHeard(1);
    Section quay = new Section(new SectionId(30), "A", "Quay", Map.of(), false, Optional.empty());
    return Show.named("Squall")
        .withParts(
            List.of(
                Part.of(KIT, "Kit", Sound.STANDARD_KIT).withShelf(List.of(clip)),
                Part.of(new PartId(2), "Bass", Sound.of(33))))
        .withForm(List.of(quay, quay.withId(new SectionId(31)).withLetter("B")));
  }

  private static Show clip(UnaryOperator<Clip> change) {
    return show().mapPart(KIT, part -> part.withClip(change.apply(part.clipOf(A))));
  }

  private static Show take(UnaryOperator<Take> change) {
    return clip(clip -> clip.mapTake(1, change));
  }

  private static String json(Object value) {
    return CoreJson.write(value).toString();
  }

  private static Arguments row(String change, Show before) {
    return Arguments.of(change.replace('\'', '"'), before);
  }

  /** Each as it was written, and the show before it: after it, it was {@link #show}. */
  static Stream<Arguments> earlier() {
    Part bells = Part.of(new PartId(9), "Bells", Sound.of(14));
    Clip b = Clip.of(new ClipId(11), "b", new LoopWindow(0, 3840), List.of(HIT.withId(300)));
    Take three = Take.of(3, List.of(new Layer(1, List.of(HIT.withId(400)))));
    Section end = new Section(new SectionId(32), "C", "End", Map.of(), true, Optional.empty());
    List<Part> parts = show().parts();
    List<Section> form = show().form();
    String content = "'notes':[],'moves':[],'notesOut':[],'movesOut':[]}";
    return Stream.of(
        row(
            "{'of':'part','part':9,'before':" + json(bells) + ",'after':null,'place':1}",
            show().withParts(List.of(parts.get(0), bells, parts.get(1)))),
        row(
            "{'of':'part','part':1,'before':"
                + json(parts.get(0).withShelf(List.of()).withName("Drums"))
                + ",'after':"
                + json(parts.get(0).withShelf(List.of()))
                + ",'place':0}",
            show().mapPart(KIT, part -> part.withName("Drums"))),
        row(
            "{'of':'order','before':[2,1],'after':[1,2]}",
            show().withParts(List.of(parts.get(1), parts.get(0)))),
        row(
            "{'of':'clip','part':1,'clip':11,'before':" + json(b) + ",'after':null}",
            show().mapPart(KIT, part -> part.withClip(b))),
        row(
            "{'of':'traits','part':1,'clip':10,'before':{'letter':'a','name':'Tide','window':"
                + "{'start':0,'length':1920},'halvedFrom':{'start':0,'length':3840},'manner':"
                + json(show().part(KIT).clipOf(A).manner())
                + "},'after':{'letter':'a','name':'','window':{'start':0,'length':3840},"
                + "'halvedFrom':null,'manner':"
                + json(show().part(KIT).clipOf(A).manner())
                + "}}",
            clip(
                c ->
                    c.withName("Tide")
                        .withWindow(new LoopWindow(0, 1920))
                        .withHalvedFrom(Optional.of(new LoopWindow(0, 3840))))),
        row(
            "{'of':'take','part':1,'clip':10,'take':3,'before':"
                + json(three)
                + ",'after':null,'heard':true}",
            clip(c -> c.with(three).withHeard(3))),
        row(
            "{'of':'take','part':1,'clip':10,'take':3,'before':"
                + json(three)
                + ",'after':null,'heard':false}",
            clip(c -> c.with(three))),
        row(
            "{'of':'takeTraits','part':1,'clip':10,'take':1,'before':{'name':'Best','partial':true,"
                + "'stretches':[]},'after':{'name':'','partial':false,'stretches':[]}}",
            take(t -> t.withName("Best").withPartial(true))),
        row(
            "{'of':'layer','part':1,'clip':10,'take':1,'layer':2,'before':{'on':false,"
                + content
                + ",'after':{'on':true,"
                + content
                + "}",
            take(t -> t.takenOff(2))),
        row(
            "{'of':'layer','part':1,'clip':10,'take':1,'layer':1,'before':{'on':true,'notes':["
                + json(LATER.withLength(500))
                + "],'moves':[],'notesOut':[],'movesOut':[]},'after':{'on':true,'notes':["
                + json(LATER)
                + "],'moves':[],'notesOut':[],'movesOut':[]}}",
            take(t -> t.mapLayer(1, l -> l.mapNote(101, n -> n.withLength(500))))),
        row(
            "{'of':'meter','before':"
                + json(new Meter(7, 8))
                + ",'after':"
                + json(Meter.COMMON)
                + "}",
            show().withMeter(new Meter(7, 8))),
        row(
            "{'of':'tempo','before':97.5,'after':120.0,'with':10}",
            show().withTempo(Tempo.of(97.5))),
        row(
            "{'of':'section','section':32,'before':" + json(end) + ",'after':null,'place':1}",
            show().withForm(List.of(form.get(0), end, form.get(1)))),
        row(
            "{'of':'section','section':30,'before':"
                + json(form.get(0).withName("Pier"))
                + ",'after':"
                + json(form.get(0))
                + ",'place':0}",
            show().withForm(List.of(form.get(0).withName("Pier"), form.get(1)))),
        row(
            "{'of':'form','before':[31,30],'after':[30,31]}",
            show().withForm(List.of(form.get(1), form.get(0)))));
  }

  @ParameterizedTest
  @MethodSource("earlier")
  void whatWasKeptBeforeIsTakenBackAsItWas(String change, Show before) {
    assertThat(read(change).inverse().madeIn(show())).isEqualTo(before);
  }

  @Test
  void layersThatWentOffInAnotherOrderDoAgain() {
    Show off = take(t -> t.takenOff(2).takenOff(3));
    Change order =
        read(
            "{'of':'off','part':1,'clip':10,'take':1,'before':[3,2],'after':[2,3]}"
                .replace('\'', '"'));
    assertThat(order.inverse().madeIn(off)).isEqualTo(take(t -> t.takenOff(3).takenOff(2)));
  }

  private static Change read(String change) {
    return CoreJson.read(change, Change.class);
  }

  @ParameterizedTest
  @MethodSource("earlier")
  void whatIsKeptIsReadAgain(String earlier, Show before) {
    Change change = Change.between(before, show());
    assertThat(read(json(change))).isEqualTo(change);
  }

  @Test
  void ofSettingsNothingIsWrittenDown() {
    Change rename = Change.between(show(), show().mapPart(KIT, part -> part.withName("Drums")));
    assertThat(json(rename)).doesNotContain("recording", "click", "master", "tempo", "notes");
  }
}
