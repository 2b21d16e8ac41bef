package ancora.core.rules.cues;

import ancora.core.clip.ClipId;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.stage.Stage;
import java.util.Optional;

/** What brings in, lets go and starts: clips, sections, the transport. */
public sealed interface CueCommand extends Command {

  /** Starts the transport, without count-in. */
  record Start() implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Transports.startAtOnce(stage, moment));
    }
  }

  /** Starts at standstill, without count-in; else stops. */
  record StartOrStop() implements CueCommand, Command.ShortFor {
    @Override
    public Command meant(Stage stage, long stamp) {
      return stage.isStill() ? new Start() : new Stop();
    }
  }

  /** Stops the transport; what is being recorded is closed. */
  record Stop() implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Stopping.stop(stage, moment));
    }
  }

  /** Cues a clip; one that is cued already is called off. */
  record CueClip(PartId part, ClipId clip) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cues.clip(stage, part, clip, moment);
    }
  }

  /** Cues silence for a part. */
  record CueTacet(PartId part) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cues.tacet(stage, part, moment);
    }
  }

  /** Calls off what is cued on a part. */
  record CallOff(PartId part) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cues.callOff(stage, part, moment);
    }
  }

  /** Calls off all that is cued: on each part, and the section. */
  record CallOffAll() implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cues.callOffAll(stage, moment);
    }
  }

  /** Silences a part at once. */
  record Cut(PartId part) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cues.cut(stage, Optional.of(part), moment);
    }
  }

  /** Silences all parts at once. */
  record CutAll() implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cues.cut(stage, Optional.empty(), moment);
    }
  }

  /** Silences all parts at the next bar; asked again, at once. */
  record StopAll() implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cues.stopAll(stage, moment);
    }
  }

  /** Cues a section; one that is cued already is called off. */
  record CueSection(SectionId section) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Forms.cue(stage, section, moment);
    }
  }

  /** Makes a section of what sounds now. */
  record MakeSection(String name) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Forms.make(stage, name), "make a section"));
    }
  }

  /** Puts a section in the place of the one with its id. */
  record SetSection(Section section) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Forms.set(stage, section), "change a section"));
    }
  }

  /** Deletes a section. */
  record DeleteSection(SectionId section) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(stage, Forms.delete(stage, section, moment), "delete a section"));
    }
  }

  /** Moves a section to a place in the form, from 0. */
  record MoveSection(SectionId section, int place) implements CueCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Forms.move(stage, section, place), "move a section"));
    }
  }
}
