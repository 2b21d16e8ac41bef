package ancora.core.catalogue;

import static ancora.core.catalogue.Group.CUE;
import static ancora.core.catalogue.Group.HOUSE;
import static ancora.core.catalogue.Group.KEEP;
import static ancora.core.catalogue.Group.LOOP;
import static ancora.core.catalogue.Group.MEND;
import static ancora.core.catalogue.Group.PART;
import static ancora.core.catalogue.Group.RECORD;
import static ancora.core.catalogue.Group.TIME;

import ancora.core.catalogue.Blank.Choice;
import ancora.core.clip.ClipId;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.edit.Clips;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.Sequence;
import ancora.core.rules.address.Addressed;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.keeping.Otherwise;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Address;
import ancora.core.show.Adjustment;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Components;
import ancora.core.show.LengthRule;
import ancora.core.show.Master;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.RunUp;
import ancora.core.show.SectionId;
import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** All that a performer may put on a control, in the words of the trade. */
public final class Catalogue {

  private static final PartId SOME_PART = new PartId(0);
  private static final ClipId SOME_CLIP = new ClipId(0);
  private static final int MOST_PARTS = 16;
  private static final int MOST_SECTIONS = 26;
  private static final int MOST_KEPT = 32;

  private static final Object TOGGLE = new Adjustment.Toggle();
  private static final Object HELD = new Adjustment.Held();
  private static final Object NEXT = new Adjustment.By(1);
  private static final Object PREVIOUS = new Adjustment.By(-1);

  private static final Blank PARTS =
      new Blank(
          "part",
          Stream.concat(
                  Stream.of(
                      part("armed", "the armed part"),
                      part("next", "the next part"),
                      part("previous", "the part before")),
                  numbers(1, MOST_PARTS).map(n -> part(n, "part " + n)))
              .toList());

  private static final Blank CLIPS =
      new Blank(
          "clip",
          Stream.concat(
                  Stream.of(
                      clip("in hand", "the clip in hand"),
                      clip("next", "the next clip"),
                      clip("previous", "the clip before")),
                  letters('a').map(letter -> clip(letter, "clip " + letter)))
              .toList());

  private static final Blank SWITCH =
      new Blank(
          "on",
          List.of(
              new Choice(TOGGLE, "on and off"),
              new Choice(HELD, "while held"),
              new Choice(true, "on"),
              new Choice(false, "off")));

  /** Everything, by groups. */
  public static final List<Entry> ALL =
      Stream.of(record(), mend(), loop(), cue(), part(), time(), keep(), house())
          .flatMap(List::stream)
          .toList();

  private Catalogue() {}

  /** What a command is called; a sequence by its name, or by what it consists of. */
  public static String words(Command command) {
    if (command instanceof Sequence sequence) {
      return sequence.name().isEmpty()
          ? sequence.commands().stream()
              .map(Catalogue::words)
              .collect(Collectors.joining(", then "))
          : sequence.name();
    }
    return entry(command)
        .map(entry -> entry.words(entry.filled(command).orElseThrow()))
        .orElse(Said.kind(command).getSimpleName());
  }

  /** The entry with some words, as they are written above. */
  public static Entry named(String words) {
    return ALL.stream().filter(entry -> entry.words().equals(words)).findFirst().orElseThrow();
  }

  /** What a blank of an entry may be, by the words of that choice. */
  public static Object value(String words, String field, String chosen) {
    return named(words).blanks().stream()
        .filter(blank -> blank.field().equals(field))
        .flatMap(blank -> blank.choices().stream())
        .filter(choice -> choice.words().equals(chosen))
        .findFirst()
        .orElseThrow()
        .value();
  }

  /** The entry that a command is one of. */
  public static Optional<Entry> entry(Command command) {
    return ALL.stream().filter(entry -> entry.filled(command).isPresent()).findFirst();
  }

  // record

  private static List<Entry> record() {
    return List.of(
        entry(RECORD, "main press", new PressCommand.MainPress()),
        entry(RECORD, "close the loop", new PressCommand.Close()),
        entry(RECORD, "overdub on and off", new PressCommand.Overdub()),
        entry(RECORD, "replace {on}", on(new MendCommand.Replace(true), HELD), held()),
        entry(
            RECORD, "punch the bar that sounds, {on}", on(new MendCommand.PunchBar(true)), SWITCH),
        entry(
            RECORD,
            "punch {bars} from bar {first} on",
            new MendCommand.PunchBars(1, 1),
            blank("bars", counted("bar", IntStream.rangeClosed(1, MOST_PARTS).toArray())),
            blank("first", numbers(1, MOST_KEPT).map(n -> new Choice(n, String.valueOf(n))))),
        setting("punch goes on, {punchGoesOn}", "punchGoesOn", TOGGLE, turned()),
        entry(RECORD, "takes {on}", on(new MendCommand.Takes(true)), SWITCH),
        entry(RECORD, "erase {on}", on(new MendCommand.EraseHeld(true), HELD), held()),
        entry(RECORD, "record into a new clip", new PressCommand.RecordAnew()),
        entry(RECORD, "hand-off", new PressCommand.HandOff()),
        entry(RECORD, "take back all since it began", new MendCommand.PeelAll()),
        entry(RECORD, "clear", new MendCommand.Clear(false)),
        setting("run-up: {runUp}", "runUp", Optional.empty(), runUps()),
        setting(
            "set length: {fixedUnits}",
            "fixedUnits",
            NEXT,
            Stream.concat(
                Stream.of(
                    new Choice(NEXT, "one more"),
                    new Choice(PREVIOUS, "one fewer"),
                    new Choice(0, "off")),
                numbers(1, RecordingSettings.MOST_BARS).map(n -> new Choice(n, "" + n)))),
        after("after closing: vamp", false, false),
        after("after closing: overdub", true, false),
        after("after closing: takes", false, true),
        entry(RECORD, "after closing: the next way", new SettingCommand.NextAfterClosing()),
        grid("input grid of {part}: {grid}", "grid", NEXT, inRow(Grid.values(), Grid::words)),
        grid("strength of {part}: {strength}", "strength", 100, percents()),
        grid("swing of {part}: {swing}", "swing", new Adjustment.Knob(50, 75), swings()),
        grid("ends to the grid on {part}, {endsToo}", "endsToo", TOGGLE, turned()),
        setting("count-in: {countInBars}", "countInBars", 1, counted("bar", 0, 1, 2)),
        setting("enters on: {entersOn}", "entersOn", NEXT, inRow(units(), EntryUnit::words)),
        setting(
            "closes on: {closesOn}",
            "closesOn",
            EntryUnit.BAR,
            Stream.of(EntryUnit.BAR, EntryUnit.BEAT).map(unit -> new Choice(unit, unit.words()))),
        setting("lengths: {lengthRule}", "lengthRule", NEXT, inRow(rules(), LengthRule::words)),
        setting(
            "breather: {breatherBars}",
            "breatherBars",
            TOGGLE,
            Stream.concat(
                Stream.of(
                    new Choice(TOGGLE, "a bar, on and off"),
                    new Choice(NEXT, "one more"),
                    new Choice(PREVIOUS, "one fewer")),
                counted("bar", 0, 1, 2, 4))),
        setting(
            "forgiveness: {forgiveness}",
            "forgiveness",
            Forgiveness.DEFAULT,
            Stream.of(Forgiveness.DEFAULT, ms(0), ms(60), ms(180), ms(250))
                .map(f -> new Choice(f, f.millis() + " ms"))),
        setting("added pedal joins, {mergePedals}", "mergePedals", TOGGLE, turned()),
        setting("from the first note, {fromFirstNote}", "fromFirstNote", TOGGLE, turned()),
        entry(
            RECORD,
            "note repeat on {grid}, {on}",
            on(new HandCommand.RepeatKeys(true, Grid.SIXTEENTH)),
            blank("grid", NoteRepeat.GRIDS.stream().map(g -> new Choice(g, g.words()))),
            SWITCH),
        entry(
            RECORD,
            "pickup of {clip}, {part}: {pickup}",
            ofClip(
                new ShelfCommand.SetManner(
                    SOME_PART, SOME_CLIP, Components.one(Manner.class, "pickup", 0L))),
            PARTS,
            CLIPS,
            blank("pickup", numbers(0, 3).map(n -> new Choice(n * 960L, quarters(n))))));
  }

  // mend

  private static List<Entry> mend() {
    return List.of(
        entry(MEND, "peel", new MendCommand.Peel()),
        entry(
            MEND,
            "peel {clip}, {part}",
            ofClip(new MendCommand.PeelClip(SOME_PART, SOME_CLIP)),
            PARTS,
            CLIPS),
        entry(MEND, "restore", new MendCommand.Restore()),
        entry(
            MEND,
            "restore {clip}, {part}",
            ofClip(new MendCommand.RestoreClip(SOME_PART, SOME_CLIP)),
            PARTS,
            CLIPS),
        entry(MEND, "undo", new UndoCommand.Undo(false)),
        entry(MEND, "redo", new UndoCommand.Redo()),
        entry(
            MEND,
            "hear {take} of {clip}, {part}, {atOnce}",
            Addressed.of(
                new MendCommand.HearTake(SOME_PART, SOME_CLIP, 1, false),
                Map.of("part", Address.ARMED, "clip", Address.IN_HAND, "take", take("next"))),
            PARTS,
            CLIPS,
            takes(),
            blank(
                "atOnce",
                Stream.of(new Choice(false, "at the entry point"), new Choice(true, "at once")))),
        entry(
            MEND,
            "from here on {take} in the comp of {clip}, {part}",
            Addressed.of(
                new MendCommand.CompHere(SOME_PART, SOME_CLIP, 1),
                Map.of("part", Address.ARMED, "clip", Address.IN_HAND)),
            PARTS,
            CLIPS,
            takes()),
        entry(
            MEND,
            "{take} into the comp of {clip}, {part}, {on}",
            Addressed.of(
                new MendCommand.CompHeld(SOME_PART, SOME_CLIP, 1, true),
                Map.of("part", Address.ARMED, "clip", Address.IN_HAND, "on", HELD)),
            PARTS,
            CLIPS,
            takes(),
            held()),
        entry(
            MEND,
            "{newest} of {clip}, {part}, {toGrid}",
            ofClip(new EditCommand.Regrid(SOME_PART, SOME_CLIP, true, true)),
            PARTS,
            CLIPS,
            blank(
                "newest",
                Stream.of(new Choice(true, "newest layer"), new Choice(false, "all notes"))),
            blank(
                "toGrid",
                Stream.of(new Choice(true, "to the grid"), new Choice(false, "as played")))),
        clipEntry(MEND, "thin a copy of {clip}", new ShelfCommand.ThinClip(SOME_PART, SOME_CLIP)),
        clipEntry(MEND, "duplicate {clip}", new ShelfCommand.DuplicateClip(SOME_PART, SOME_CLIP)),
        clipEntry(
            MEND, "spread the takes of {clip}", new MendCommand.SpreadTakes(SOME_PART, SOME_CLIP)),
        clipEntry(
            MEND,
            "spread the layers of {clip}",
            new EditCommand.SpreadLayers(SOME_PART, SOME_CLIP)),
        clipEntry(
            MEND, "takes of {clip} in a row", new MendCommand.LayTakesInRow(SOME_PART, SOME_CLIP)),
        clipEntry(MEND, "keep one take of {clip}", new MendCommand.CropTakes(SOME_PART, SOME_CLIP)),
        clipEntry(MEND, "flatten {clip}", new EditCommand.Flatten(SOME_PART, SOME_CLIP)),
        entry(
            MEND,
            "repeat {clip}, {part}, to {times}",
            Addressed.of(
                new EditCommand.RepeatClip(SOME_PART, new Clips(List.of(SOME_CLIP)), 2),
                Map.of("part", Address.ARMED, "clip", Address.IN_HAND)),
            PARTS,
            CLIPS,
            blank("times", numbers(2, 8).map(n -> new Choice(n, n + " times")))));
  }

  // loop

  private static List<Entry> loop() {
    return List.of(
        clipEntry(
            LOOP,
            "halve {clip}",
            new ShelfCommand.Reshape(SOME_PART, SOME_CLIP, new Reshaping.Halve())),
        clipEntry(
            LOOP,
            "double {clip}",
            new ShelfCommand.Reshape(SOME_PART, SOME_CLIP, new Reshaping.Twice())),
        entry(
            LOOP,
            "shift {clip}, {part}, {beats}",
            ofClip(new ShelfCommand.ShiftLoop(SOME_PART, SOME_CLIP, 1)),
            PARTS,
            CLIPS,
            blank(
                "beats",
                Stream.of(new Choice(1, "a beat later"), new Choice(-1, "a beat earlier")))),
        entry(
            LOOP,
            "{bars} of {all}",
            new ShelfCommand.WindowBars(ShelfCommand.WindowBars.Bars.ALONE, false),
            blank(
                "bars",
                Stream.of(
                    new Choice(ShelfCommand.WindowBars.Bars.ALONE, "this bar alone"),
                    new Choice(ShelfCommand.WindowBars.Bars.LONGER, "a bar longer"),
                    new Choice(ShelfCommand.WindowBars.Bars.SHORTER, "a bar shorter"))),
            blank(
                "all",
                Stream.of(new Choice(false, "the armed part"), new Choice(true, "all that vamp")))),
        entry(
            LOOP,
            "{edge} of {clip}, {part}, {by} in {unit}",
            ofClip(
                new ShelfCommand.MoveEdge(
                    SOME_PART,
                    SOME_CLIP,
                    ShelfCommand.MoveEdge.Edge.START,
                    EntryUnit.BEAT,
                    new Adjustment.By(1))),
            PARTS,
            CLIPS,
            blank(
                "edge",
                Stream.of(
                    new Choice(ShelfCommand.MoveEdge.Edge.START, "start"),
                    new Choice(ShelfCommand.MoveEdge.Edge.LENGTH, "length"))),
            blank(
                "by",
                Stream.of(
                    new Choice(NEXT, "one later"),
                    new Choice(PREVIOUS, "one earlier"),
                    new Choice(new Adjustment.Knob(0, 15), "by knob, 0 to 15"),
                    new Choice(new Adjustment.Knob(1, 16), "by knob, 1 to 16"),
                    new Choice(new Adjustment.Knob(0, 31), "by knob, 0 to 31"))),
            blank(
                "unit",
                Stream.of(new Choice(EntryUnit.BEAT, "beats"), new Choice(EntryUnit.BAR, "bars")))),
        entry(
            LOOP,
            "stutter by {divide} in {all}, {on}",
            on(new MendCommand.Stutter(true, 1, false), HELD),
            blank(
                "divide",
                Stream.of(
                    new Choice(1, "a beat"),
                    new Choice(2, "half a beat"),
                    new Choice(4, "a quarter of a beat"))),
            blank(
                "all",
                Stream.of(new Choice(false, "the armed part"), new Choice(true, "all that vamp"))),
            held()));
  }

  // cue

  private static List<Entry> cue() {
    return List.of(
        entry(
            CUE,
            "cue {clip} of {part}",
            ofClip(new CueCommand.CueClip(SOME_PART, SOME_CLIP)),
            PARTS,
            CLIPS),
        partEntry(CUE, "{part} tacet", new CueCommand.CueTacet(SOME_PART)),
        partEntry(CUE, "cut {part}", new CueCommand.Cut(SOME_PART)),
        entry(CUE, "cut all", new CueCommand.CutAll()),
        entry(CUE, "all parts tacet", new CueCommand.StopAll()),
        entry(
            CUE,
            "cue {section}",
            Addressed.of(
                new CueCommand.CueSection(new SectionId(0)), Map.of("section", section("next"))),
            blank(
                "section",
                Stream.concat(
                    Stream.of(
                        new Choice(section("next"), "the next section"),
                        new Choice(section("previous"), "the section before"),
                        new Choice(section("now"), "this section once more")),
                    letters('A').map(l -> new Choice(section(l), "section " + l))))),
        partEntry(CUE, "call off what is cued on {part}", new CueCommand.CallOff(SOME_PART)),
        entry(CUE, "call off all that is cued", new CueCommand.CallOffAll()),
        entry(CUE, "make a section of what sounds", new CueCommand.MakeSection("")));
  }

  // part

  private static List<Entry> part() {
    return List.of(
        entry(
            PART,
            "arm {part}",
            Addressed.of(new PressCommand.Arm(SOME_PART), Map.of("part", address("next"))),
            firstThen(PARTS, 1)),
        entry(
            PART,
            "arm {part} alongside, {on}",
            Addressed.of(
                new PressCommand.ArmAlongside(SOME_PART, true),
                Map.of("part", address("next"), "on", TOGGLE)),
            firstThen(PARTS, 1),
            SWITCH),
        entry(
            PART,
            "add a part with {next}",
            new SettingCommand.AddPartLike(false),
            blank(
                "next",
                Stream.of(
                    new Choice(false, "the same sound"),
                    new Choice(true, "the next sound of its family")))),
        entry(
            PART,
            "{by} of {part}",
            ofPart(new SettingCommand.StepSound(SOME_PART, 1)),
            blank("by", Stream.of(new Choice(1, "next sound"), new Choice(-1, "sound before"))),
            PARTS),
        balance("mute {part}, {muted}", "muted", TOGGLE, turned()),
        balance("solo {part}, {solo}", "solo", TOGGLE, turned()),
        balance("level of {part}: {level}", "level", new Adjustment.By(1), levels()),
        balance(
            "pan of {part}: {pan}",
            "pan",
            new Adjustment.Knob(-100, 100),
            Stream.of(
                knob(-100, 100),
                by(10, "to the right"),
                by(-10, "to the left"),
                new Choice(0, "middle"))),
        balance("echo of {part}: {echo}", "echo", new Adjustment.Knob(0, 100), sends()),
        balance("room of {part}: {room}", "room", new Adjustment.Knob(0, 100), sends()),
        balance("low tone of {part}: {low}", "low", new Adjustment.Knob(-12, 12), tones()),
        balance("high tone of {part}: {high}", "high", new Adjustment.Knob(-12, 12), tones()),
        entry(
            PART,
            "level of each part: {decibels}",
            new SettingCommand.TrimAll(1),
            blank(
                "decibels",
                Stream.of(
                    new Choice(1.0, "a dB louder"),
                    new Choice(-1.0, "a dB softer"),
                    new Choice(3.0, "3 dB louder"),
                    new Choice(-3.0, "3 dB softer")))),
        input(
            "monitoring of {part}: {monitoring}",
            "monitoring",
            NEXT,
            inRow(PartInput.Monitoring.values(), PartInput.Monitoring::words)),
        input(
            "transpose {part}: {transpose}",
            "transpose",
            new Adjustment.By(12),
            Stream.of(
                by(12, "an octave up"),
                by(-12, "an octave down"),
                by(1, "a semitone up"),
                by(-1, "a semitone down"),
                new Choice(0, "as played"))));
  }

  // time

  private static List<Entry> time() {
    return List.of(
        entry(TIME, "start and stop", new CueCommand.StartOrStop()),
        entry(TIME, "start", new CueCommand.Start()),
        entry(TIME, "stop", new CueCommand.Stop()),
        entry(
            TIME,
            "tempo: {by}",
            new SettingCommand.ShiftTempo(new Adjustment.Knob(40, 240)),
            blank(
                "by",
                Stream.of(
                    knob(40, 240),
                    knob(60, 180),
                    by(1, "+1"),
                    by(-1, "−1"),
                    by(0.1, "+0.1"),
                    by(-0.1, "−0.1"),
                    by(5, "+5"),
                    by(-5, "−5")))),
        entry(TIME, "tap the tempo", new SettingCommand.TapTempo()),
        click("click, {on}", "on", TOGGLE, turned()),
        click(
            "level of the click: {level}",
            "level",
            new Adjustment.Knob(-40, 6),
            Stream.of(knob(-40, 6), by(1, "a dB louder"), by(-1, "a dB softer"))),
        click(
            "clicks to a beat: {divided}",
            "divided",
            2,
            Stream.of(1, 2, 3, 4).map(n -> new Choice(n, n == 1 ? "one" : String.valueOf(n)))),
        click("click: {when}", "when", NEXT, inRow(Click.When.values(), Click.When::words)),
        click(
            "sound of the click: {sound}",
            "sound",
            NEXT,
            inRow(Click.Sound.values(), Click.Sound::words)));
  }

  // keep

  private static List<Entry> keep() {
    List<Entry> entries = new ArrayList<>();
    entries.add(
        entry(
            KEEP,
            "keep what was played last, {ofLoopLength}, {cue}",
            new KeepCommand.Keep(false, false),
            blank(
                "ofLoopLength",
                Stream.of(
                    new Choice(false, "as long as it is"),
                    new Choice(true, "as long as the loop"))),
            cueIt()));
    entries.add(
        entry(
            KEEP,
            "keep the last {bars} of {part}, {cue}",
            Addressed.of(
                new KeepCommand.KeepBars(SOME_PART, SOME_PART, 1, false),
                Map.of("part", Address.ARMED, "onto", Address.ARMED)),
            PARTS,
            blank("bars", counted("bar", IntStream.rangeClosed(1, MOST_KEPT).toArray())),
            cueIt()));
    entries.add(
        entry(
            KEEP,
            "what was kept: {by}",
            new KeepCommand.KeepPhrases(1),
            blank(
                "by",
                Stream.of(new Choice(1, "one phrase more"), new Choice(-1, "one phrase fewer")))));
    entries.add(
        entry(
            KEEP,
            "what was kept, otherwise: {by}",
            new KeepCommand.ChangeKept(Otherwise.HALF),
            blank(
                "by", Arrays.stream(Otherwise.values()).map(by -> new Choice(by, otherwise(by))))));
    entries.add(entry(KEEP, "hear what was kept", new KeepCommand.HearKept()));
    entries.add(entry(KEEP, "hear a run, or stop it", new OnPage(OnPage.What.HEAR_RUN)));
    entries.add(entry(KEEP, "the run round this bar, or on", new OnPage(OnPage.What.RUN_ROUND)));
    return entries;
  }

  private static String otherwise(Otherwise by) {
    return switch (by) {
      case HALF -> "half the tempo";
      case DOUBLE -> "double the tempo";
      case EARLIER -> "the bar a beat earlier";
      case LATER -> "the bar a beat later";
      case THREE -> "three beats to the bar";
      case FOUR -> "four beats to the bar";
      case STEADY -> "steady";
      case AS_PLAYED -> "as played";
      case STEADY_OR_NOT -> "steady, or as played";
      case GIVE_UP -> "give it up";
    };
  }

  // house

  private static List<Entry> house() {
    return List.of(
        entry(HOUSE, "panic", new HandCommand.Panic()),
        master("level of all: {level}", "level", new Adjustment.Knob(-60, 6), levels()),
        master(
            "echo comes every {echo}",
            "echo",
            Grid.EIGHTH,
            NoteRepeat.GRIDS.stream().map(g -> new Choice(g, g.words()))),
        master(
            "echoes: {repeats}",
            "repeats",
            new Adjustment.Knob(0, 90),
            Stream.concat(
                Stream.of(knob(0, 90), by(10, "10 more"), by(-10, "10 less")),
                Stream.of(0, 35, 60).map(n -> new Choice(n, n + " %")))),
        master(
            "room lasts {room}",
            "room",
            new Adjustment.Knob(0.2, 8),
            Stream.of(
                knob(0.2, 8),
                new Choice(0.8, "0.8 s"),
                new Choice(1.8, "1.8 s"),
                new Choice(4.0, "4 s"))),
        master("peaks of all are held, {limited}", "limited", TOGGLE, turned()),
        entry(HOUSE, "lamp off", new OnPage(OnPage.What.LAMP_OFF)),
        entry(HOUSE, "light and dark", new OnPage(OnPage.What.LIGHT)),
        entry(HOUSE, "Workshop, open and close", new OnPage(OnPage.What.WORKSHOP)),
        entry(HOUSE, "Runs, open and close", new OnPage(OnPage.What.RUNS)),
        entry(HOUSE, "what now, open and close", new OnPage(OnPage.What.WHAT_NOW)),
        entry(HOUSE, "pads and keys, open and close", new OnPage(OnPage.What.HANDS)),
        entry(HOUSE, "sounds of the armed part", new OnPage(OnPage.What.SOUNDS)),
        entry(HOUSE, "settings of the armed part", new OnPage(OnPage.What.PART)),
        entry(HOUSE, "grid and recording", new OnPage(OnPage.What.SETTINGS)),
        entry(HOUSE, "setup", new OnPage(OnPage.What.SETUP)),
        entry(HOUSE, "help", new OnPage(OnPage.What.HELP)),
        entry(HOUSE, "computer keys play softer", new OnPage(OnPage.What.SOFTER_KEYS)),
        entry(HOUSE, "computer keys play harder", new OnPage(OnPage.What.HARDER_KEYS)));
  }

  // how entries are made

  private static Entry entry(Group group, String words, Command usual, Blank... blanks) {
    return new Entry(group, words, usual, List.of(blanks));
  }

  private static Entry partEntry(Group group, String words, Command usual) {
    return entry(group, words, ofPart(usual), PARTS);
  }

  private static Entry clipEntry(Group group, String words, Command usual) {
    return entry(group, words + ", {part}", ofClip(usual), PARTS, CLIPS);
  }

  private static Command ofPart(Command command) {
    return Addressed.of(command, Map.of("part", Address.ARMED));
  }

  private static Command ofClip(Command command) {
    return Addressed.of(command, Map.of("part", Address.ARMED, "clip", Address.IN_HAND));
  }

  private static Command on(Command command) {
    return on(command, TOGGLE);
  }

  private static Command on(Command command, Object on) {
    return Addressed.of(command, Map.of("on", on));
  }

  private static Entry setting(String words, String field, Object usual, Stream<Choice> choices) {
    Components<RecordingSettings> some = Components.one(RecordingSettings.class, field, usual);
    return entry(RECORD, words, new SettingCommand.SetRecording(some), blank(field, choices));
  }

  private static Entry after(String words, boolean overdub, boolean takes) {
    Map<String, Object> both = new HashMap<>(Map.of("overdubAfter", overdub, "takesAfter", takes));
    return entry(
        RECORD,
        words,
        new SettingCommand.SetRecording(new Components<>(RecordingSettings.class, both)));
  }

  private static Entry grid(String words, String field, Object usual, Stream<Choice> choices) {
    Components<InputGrid> some = Components.one(InputGrid.class, field, usual);
    Command command = ofPart(new SettingCommand.SetInputGrid(SOME_PART, some));
    return entry(RECORD, words, command, PARTS, blank(field, choices));
  }

  private static Entry balance(String words, String field, Object usual, Stream<Choice> choices) {
    Components<Balance> some = Components.one(Balance.class, field, usual);
    Command command = ofPart(new SettingCommand.SetBalance(SOME_PART, some));
    return entry(PART, words, command, PARTS, blank(field, choices));
  }

  private static Entry input(String words, String field, Object usual, Stream<Choice> choices) {
    Components<PartInput> some = Components.one(PartInput.class, field, usual);
    Command command = ofPart(new SettingCommand.SetPartInput(SOME_PART, some));
    return entry(PART, words, command, PARTS, blank(field, choices));
  }

  private static Entry click(String words, String field, Object usual, Stream<Choice> choices) {
    Components<Click> some = Components.one(Click.class, field, usual);
    return entry(TIME, words, new SettingCommand.SetClick(some), blank(field, choices));
  }

  private static Entry master(String words, String field, Object usual, Stream<Choice> choices) {
    Components<Master> some = Components.one(Master.class, field, usual);
    return entry(HOUSE, words, new SettingCommand.SetMaster(some), blank(field, choices));
  }

  private static Blank blank(String field, Stream<Choice> choices) {
    return new Blank(field, choices.toList());
  }

  /** The same choices of on and off, held first. */
  private static Blank held() {
    return firstThen(SWITCH, 1);
  }

  /** The same choices, with one of them at the head. */
  private static Blank firstThen(Blank blank, int first) {
    List<Choice> choices = new ArrayList<>(blank.choices());
    Collections.swap(choices, 0, first);
    return new Blank(blank.field(), choices);
  }

  private static Stream<Choice> turned() {
    return Stream.of(
        new Choice(TOGGLE, "on and off"), new Choice(true, "on"), new Choice(false, "off"));
  }

  private static <T extends Enum<T>> Stream<Choice> inRow(T[] all, Function<T, String> words) {
    return Stream.concat(
        Stream.of(new Choice(NEXT, "the next"), new Choice(PREVIOUS, "the one before")),
        Arrays.stream(all).map(one -> new Choice(one, words.apply(one))));
  }

  private static EntryUnit[] units() {
    return EntryUnit.values();
  }

  private static LengthRule[] rules() {
    return LengthRule.values();
  }

  private static Forgiveness ms(int millis) {
    return new Forgiveness(millis);
  }

  private static Stream<Choice> percents() {
    return Stream.concat(
        Stream.of(100, 75, 50, 25, 0).map(n -> new Choice(n, n + " %")),
        Stream.of(by(10, "10 more"), by(-10, "10 less"), knob(0, 100)));
  }

  private static Stream<Choice> swings() {
    return Stream.concat(
        Stream.of(knob(50, 75), by(1, "1 more"), by(-1, "1 less")),
        Stream.of(50.0, 54.0, 58.0, 62.0, 66.0).map(n -> new Choice(n, n.intValue() + " %")));
  }

  private static Stream<Choice> levels() {
    return Stream.concat(
        Stream.of(
            by(1, "a dB louder"),
            by(-1, "a dB softer"),
            by(3, "3 dB louder"),
            by(-3, "3 dB softer"),
            knob(-60, 6),
            knob(-24, 0)),
        Stream.of(0.0, -3.0, -6.0, -12.0, -60.0)
            .map(db -> new Choice(db, db.intValue() == -60 ? "silent" : db.intValue() + " dB")));
  }

  private static Stream<Choice> tones() {
    return Stream.concat(
        Stream.of(knob(-12, 12), by(1, "a dB more"), by(-1, "a dB less")),
        Stream.of(0.0, -6.0, 6.0)
            .map(db -> new Choice(db, db == 0 ? "as it is" : Math.round(db) + " dB")));
  }

  private static Stream<Choice> sends() {
    return Stream.concat(
        Stream.of(knob(0, 100), by(10, "10 more"), by(-10, "10 less")),
        Stream.of(0, 15, 30, 50).map(n -> new Choice(n, n + " %")));
  }

  private static Stream<Choice> runUps() {
    Stream<RunUp> bars =
        Stream.of(RunUp.Of.values())
            .flatMap(of -> numbers(1, MOST_PARTS).map(bar -> new RunUp(of, bar)));
    return Stream.concat(
        Stream.of(new Choice(Optional.empty(), "off")),
        bars.map(
            runUp ->
                new Choice(
                    Optional.of(runUp),
                    "to bar "
                        + runUp.bar()
                        + (runUp.of() == RunUp.Of.LOOP ? " of the loop" : " from the start"))));
  }

  private static Blank takes() {
    return blank(
        "take",
        Stream.concat(
            Stream.of(
                new Choice(1, "take 1"),
                new Choice(take("next"), "the next take"),
                new Choice(take("previous"), "the take before"),
                new Choice(take("last"), "the last take")),
            numbers(2, MOST_KEPT).map(n -> new Choice(n, "take " + n))));
  }

  private static Blank cueIt() {
    return blank("cue", Stream.of(new Choice(false, "on the shelf"), new Choice(true, "cued")));
  }

  private static Stream<Choice> counted(String what, int... numbers) {
    return Arrays.stream(numbers)
        .mapToObj(n -> new Choice(n, n == 0 ? "off" : n + " " + what + (n == 1 ? "" : "s")));
  }

  private static String quarters(int n) {
    return n == 0 ? "none" : n + (n == 1 ? " quarter note" : " quarter notes");
  }

  private static Choice by(double amount, String words) {
    return new Choice(new Adjustment.By(amount), words);
  }

  private static Choice knob(double from, double to) {
    Adjustment.Knob knob = new Adjustment.Knob(from, to);
    return new Choice(knob, Said.words(knob));
  }

  private static Stream<Integer> numbers(int from, int to) {
    return IntStream.rangeClosed(from, to).boxed();
  }

  private static Stream<String> letters(char first) {
    return IntStream.range(first, first + MOST_SECTIONS).mapToObj(c -> String.valueOf((char) c));
  }

  private static Choice part(Object name, String words) {
    return new Choice(address(String.valueOf(name)), words);
  }

  private static Choice clip(String name, String words) {
    return new Choice(new Address(Address.Of.CLIP, name), words);
  }

  private static Address address(String part) {
    return new Address(Address.Of.PART, part);
  }

  private static Address take(String name) {
    return new Address(Address.Of.TAKE, name);
  }

  private static Address section(String name) {
    return new Address(Address.Of.SECTION, name);
  }
}
