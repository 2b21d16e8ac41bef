package ancora.core.engine;

import ancora.core.clip.ClipId;
import ancora.core.record.AfterClosing;
import ancora.core.record.Way;
import ancora.core.show.PartId;
import ancora.core.show.SectionId;

/** Something that a press does, or has done: what becomes otherwise, where, and from which tick. */
public sealed interface Effect {

  /** Something that takes effect at a tick of the transport. */
  sealed interface Timed extends Effect {
    long at();
  }

  /** The transport starts; a count-in of some ticks comes before tick 0. */
  record Starts(long countIn) implements Effect {}

  /** The transport stops. */
  record Stops() implements Effect {}

  /** The first note played on a part is awaited; or is not any more. */
  record Awaits(PartId part, boolean on) implements Effect {}

  /** A part is armed. */
  record Arms(PartId part) implements Effect {}

  /** A recording begins. */
  record Records(PartId part, long at) implements Timed {}

  /** What has been recorded is dropped, and the recording begins again at a tick. */
  record BeginsAgain(PartId part, long at) implements Timed {}

  /** A recording that was cued, or goes on, is dropped; what was played stays in hindsight. */
  record DropsRecording(PartId part) implements Effect {}

  /** A loop closes at a tick, and goes on from there. */
  record Closes(PartId part, long at, AfterClosing then) implements Timed {}

  /** A recording that was to close goes on. */
  record RecordsOn(PartId part) implements Effect {}

  /** What is played is added to a clip, from now on or from a tick. */
  record Adds(PartId part, ClipId clip, long at) implements Timed {}

  /** Takes end on a part, and one of them is heard. */
  record EndsTakes(PartId part, int heard) implements Effect {}

  /** A take goes that was there, or is being played. */
  record DropsTake(PartId part, int take) implements Effect {}

  /** Replace, punch or takes begin on a part, or one of the first two ends. */
  record Switches(PartId part, Way way, boolean on) implements Effect {}

  /** Nothing is added any more from a tick on. */
  record StopsAdding(PartId part, long at) implements Timed {}

  /** A clip enters. */
  record Enters(PartId part, ClipId clip, long at) implements Timed {}

  /** A part falls silent. */
  record GoesTacet(PartId part, long at) implements Timed {}

  /** What was cued on a part does not come. */
  record CallsOff(PartId part) implements Effect {}

  /** At standstill, another clip stands ready on a part. */
  record StandsReady(PartId part, ClipId clip) implements Effect {}

  /** At standstill, nothing stands ready on a part any more. */
  record StandsTacet(PartId part) implements Effect {}

  /** At standstill, the line-up of a section stands ready. */
  record StandsReadyAs(SectionId section) implements Effect {}

  /** A section enters. */
  record EntersSection(SectionId section, long at) implements Timed {}

  /** The section that was cued does not come. */
  record CallsOffSection() implements Effect {}

  /** Another take of the clip that sounds is heard. */
  record HearsTake(PartId part, int take, long at) implements Timed {}

  /** A loop goes round in a beat, or does so no more. */
  record Stutters(PartId part, boolean on) implements Effect {}

  /** A clip gets another window. */
  record Reshapes(PartId part, ClipId clip, long at) implements Timed {}

  /** A layer is taken off: the notes that it added go, and those that it took out come back. */
  record TakesOff(PartId part, ClipId clip, int layer, int notes, int comeBack) implements Effect {}

  /** A layer is put back. */
  record PutsBack(PartId part, ClipId clip, int layer, int notes) implements Effect {}

  /** A clip goes off the shelf. */
  record TakesAway(PartId part, String letter) implements Effect {}

  /** A clip comes on the shelf. */
  record BringsIn(PartId part, String letter) implements Effect {}

  /** A clip is otherwise. */
  record ChangesClip(PartId part, ClipId clip) implements Effect {}

  /** A part is made. */
  record MakesPart(PartId part, String name) implements Effect {}

  /** A part goes. */
  record RemovesPart(String name) implements Effect {}

  /** Held erase begins or ends. */
  record Erases(boolean on) implements Effect {}

  /** Note repeat is switched on, changed, or switched off. */
  record Repeats(boolean on) implements Effect {}

  /** Keys that are down come up. */
  record LetsGo(int keys) implements Effect {}
}
