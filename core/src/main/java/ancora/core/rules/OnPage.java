package ancora.core.rules;

import ancora.core.Refusal;
import ancora.core.stage.Stage;

/**
 * Something that a page does by itself, so that a control can stand for it too: the engine has
 * nothing to do with it.
 *
 * @param what is done
 */
public record OnPage(What what) implements Command {

  /** What pages do. */
  public enum What {
    /** Opens the Workshop, or closes it. */
    WORKSHOP,
    /** Opens the runs, or closes them. */
    RUNS,
    /** Hears the run that is chosen, or the newest; or stops hearing it. */
    HEAR_RUN,
    /** A run that is heard goes round in the bar that sounds; or no more. */
    RUN_ROUND,
    /** Puts out the lamp that says something worth knowing. */
    LAMP_OFF,
    /** Light and dark. */
    LIGHT,
    /** Opens pads and keys, or closes them. */
    HANDS,
    /** Opens what there is to do now, or closes it. */
    WHAT_NOW,
    /** Opens the sounds of the armed part. */
    SOUNDS,
    /** Opens what the armed part is set to. */
    PART,
    /** Opens grid and recording. */
    SETTINGS,
    /** Opens the setup of devices and controls. */
    SETUP,
    /** Opens the sheet of keys and controls. */
    HELP,
    /** The keys of the computer play softer. */
    SOFTER_KEYS,
    /** The keys of the computer play harder. */
    HARDER_KEYS
  }

  @Override
  public Result apply(Stage stage, Moment moment) {
    throw new Refusal("That is done on a page: press it there.");
  }
}
