package ancora.core.catalogue;

import static ancora.core.catalogue.Asked.asked;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.catalogue.Entry.Hold;
import ancora.core.engine.Commands;
import ancora.core.rules.Command;
import ancora.core.rules.Sequence;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class CatalogueTest {

  /** Commands that no control can stand for, and why. */
  private static final Map<String, String> NOT_FOR_CONTROLS =
      new TreeMap<>(
          Map.ofEntries(
              Map.entry("KeyDown KeyUp Sustain MoveController KeyPressure DeviceGone", "hands"),
              Map.entry("Rename RenameClip RenamePart RenameTake", "a name is typed"),
              Map.entry("Punch PunchHere PunchOff", "by bars: PunchBars, PunchBar"),
              Map.entry("RepeatNotes RepeatOff", "RepeatKeys"),
              Map.entry("SetTempo", "ShiftTempo"),
              Map.entry("KeepOnto KeepStretch", "a stretch is shown, a part is pointed at"),
              Map.entry("EditNotes SplitNotes SplitClip", "notes are chosen: Regrid"),
              Map.entry("Comp RedrawComp TakesInARow ChainClips", "several are pointed at"),
              Map.entry("DeleteTake DeleteClip DeletePart DeleteSection", "it is looked at first"),
              Map.entry("MoveClip MoveClipTo CopyClip MovePart MoveSection", "a place is shown"),
              Map.entry("JoinParts SplitPart CutClip MakeClip", "parts and clips are made anew"),
              Map.entry(
                  "SetSection SetMeter SetPennant SetLeaving", "set before, not in the music"),
              Map.entry("SoundOutside SoundInside ChooseSound AddPart", "from a list"),
              Map.entry("SetClipSound ClipSoundAsPart", "from a list"),
              Map.entry("BringIn", "from a file"),
              Map.entry("ReportDelay", "the page measures it"),
              Map.entry("Sequence Instead", "made of others")));

  @Test
  void everyCommandIsInItOrThereIsAReason() {
    Set<String> there = new TreeSet<>();
    Catalogue.ALL.forEach(entry -> there.add(Said.kind(entry.usual()).getSimpleName()));
    Set<String> left = new TreeSet<>();
    NOT_FOR_CONTROLS.keySet().forEach(names -> left.addAll(List.of(names.split(" "))));
    Set<String> all = new TreeSet<>();
    Commands.kinds().forEach(kind -> all.add(kind.getSimpleName()));
    Set<String> known = new TreeSet<>(there);
    known.addAll(left);
    assertThat(known).isEqualTo(all);
    assertThat(there).as("both in it and left out").doesNotContainAnyElementsOf(left);
  }

  @Test
  void eachCommandIsOfOneEntryWithItsWords() {
    Set<String> words = new HashSet<>();
    for (Entry entry : Catalogue.ALL) {
      assertThat(words.add(entry.words())).as(entry.words()).isTrue();
      assertThat(Catalogue.entry(entry.usual())).contains(entry);
      for (Blank blank : entry.blanks()) {
        assertThat(blank.choices()).as(entry.words()).isNotEmpty();
        assertThat(entry.words()).contains("{" + blank.field() + "}");
        for (Blank.Choice choice : blank.choices()) {
          Command command = entry.with(Map.of(blank.field(), choice.value()));
          assertThat(Catalogue.entry(command)).as("%s", command).contains(entry);
          assertThat(Catalogue.words(command)).contains(choice.words()).doesNotContain("{");
        }
      }
    }
  }

  @Test
  void whatIsUsualIsAmongTheChoices() {
    for (Entry entry : Catalogue.ALL) {
      Map<String, Object> filled = entry.filled(entry.usual()).orElseThrow();
      for (Blank blank : entry.blanks()) {
        assertThat(blank.choices())
            .as(entry.words())
            .extracting(Blank.Choice::value)
            .contains(filled.get(blank.field()))
            .doesNotHaveDuplicates();
      }
    }
  }

  @Test
  void itSaysHowAControlWorks() {
    assertThat(Entry.holdOf(new PressCommand.MainPress())).isEqualTo(Hold.PRESSED);
    assertThat(Entry.holdOf(asked("erase {on}"))).isEqualTo(Hold.WHILE_HELD);
    assertThat(Entry.holdOf(asked("erase {on}", "on", "on and off"))).isEqualTo(Hold.PRESSED);
    assertThat(Entry.holdOf(asked("tempo: {by}"))).isEqualTo(Hold.TURNED);
    assertThat(Entry.holdOf(asked("echo of {part}: {echo}"))).isEqualTo(Hold.TURNED);
    assertThat(Entry.holdOf(asked("echo of {part}: {echo}", "echo", "30 %")))
        .isEqualTo(Hold.PRESSED);
  }

  @Test
  void wordsAreThoseOfTheTrade() {
    assertThat(Catalogue.words(asked("cue {clip} of {part}", "clip", "clip b", "part", "part 2")))
        .isEqualTo("cue clip b of part 2");
    assertThat(Catalogue.words(new MendCommand.Clear(true))).isEqualTo("clear");
    Command sequence = new Sequence("", List.of(new PressCommand.Close(), asked("arm {part}")));
    assertThat(Catalogue.words(sequence)).isEqualTo("close the loop, then arm the next part");
    assertThat(
            Catalogue.words(
                new Sequence(
                    "on to the bass", List.of(new PressCommand.Close(), new HandCommand.Panic()))))
        .isEqualTo("on to the bass");
  }
}
