package ancora.core.stage;

import ancora.core.clip.ClipId;
import ancora.core.show.PartId;

/**
 * While a control is held a take is heard, and what is heard of it goes into a comp.
 *
 * @param part where
 * @param clip the clip that vamps there
 * @param take the take that is swept in
 * @param base the take that was heard before: the comp is that, or made of it
 * @param from the tick at which the control was pressed
 */
public record Sweep(PartId part, ClipId clip, int take, int base, long from) {}
