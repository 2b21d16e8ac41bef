package ancora.core.file;

import ancora.core.run.From;
import ancora.core.run.RunPart;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Which channel of a file each part has: drum kits the tenth, as General MIDI Level 1 has it, the
 * others those that are free, in order. Where they do not suffice, parts share one.
 *
 * @param of channels from 0
 * @param sharing by part, the part whose channel it shares, and whose sound and balance hold there
 */
public record Channels(Map<PartId, Integer> of, Map<PartId, PartId> sharing) {

  /** The channel of drum kits, from 0. */
  public static final int DRUMS = 9;

  private static final int CHANNELS = 16;

  /** What has to be the same of parts that share a channel and sound as they did. */
  private record Alike(List<From.OfSound> sounds, List<From.OfBalance> balances) {
    static Alike of(RunPart part) {
      return new Alike(part.sounds(), part.balances());
    }
  }

  /** Of the parts of a show, as far as they go; the seventeenth part shares with the first. */
  public static Map<PartId, Integer> of(Show show) {
    Map<PartId, Integer> channels = new LinkedHashMap<>();
    int next = 0;
    for (Part part : show.parts()) {
      if (part.sound().drums()) {
        channels.put(part.id(), DRUMS);
      } else {
        channels.put(part.id(), melodic(next++ % (CHANNELS - 1)));
      }
    }
    return channels;
  }

  /** The channels but the tenth, in order. */
  private static int melodic(int place) {
    return place < DRUMS ? place : place + 1;
  }

  /** Of what sounded. */
  static Channels of(List<RunPart> parts) {
    Map<PartId, Integer> of = new LinkedHashMap<>();
    Map<PartId, PartId> sharing = new LinkedHashMap<>();
    List<RunPart> owners = new ArrayList<>();
    Optional<RunPart> kit = Optional.empty();
    long melodic = parts.stream().filter(part -> !isKit(part)).count();
    for (RunPart part : parts) {
      if (isKit(part)) {
        kit.ifPresent(first -> sharing.put(part.id(), first.id()));
        kit = kit.or(() -> Optional.of(part));
        of.put(part.id(), DRUMS);
        continue;
      }
      boolean scarce = melodic > CHANNELS - 1;
      Optional<RunPart> alike =
          owners.stream().filter(o -> scarce && Alike.of(o).equals(Alike.of(part))).findFirst();
      if (alike.isEmpty() && owners.size() == CHANNELS - 1) {
        alike = Optional.of(owners.get(owners.size() - 1));
      }
      if (alike.isPresent()) {
        of.put(part.id(), of.get(alike.get().id()));
        sharing.put(part.id(), alike.get().id());
      } else {
        of.put(part.id(), melodic(owners.size()));
        owners.add(part);
      }
    }
    return new Channels(of, sharing);
  }

  private static boolean isKit(RunPart part) {
    return part.sounds().get(0).sound().drums();
  }

  /** What is otherwise in the file for those that share a channel, in sentences. */
  List<String> said(List<RunPart> parts) {
    List<String> said = new ArrayList<>();
    Map<PartId, RunPart> byId = new LinkedHashMap<>();
    parts.forEach(part -> byId.put(part.id(), part));
    sharing.forEach(
        (part, owner) -> {
          RunPart sharer = byId.get(part);
          RunPart first = byId.get(owner);
          boolean alike = Alike.of(sharer).equals(Alike.of(first));
          said.add(
              "%s shares channel %d with %s%s."
                  .formatted(
                      sharer.name(),
                      of.get(part) + 1,
                      first.name(),
                      alike ? "" : ", and sounds as that does"));
        });
    return said;
  }
}
