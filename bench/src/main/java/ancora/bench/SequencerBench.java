package ancora.bench;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.MidiUnavailableException;
import javax.sound.midi.Receiver;
import javax.sound.midi.Sequence;
import javax.sound.midi.Sequencer;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;

/** The JDK's own sequencer going round two bars of sixteenths at 120: how far its onsets stray. */
final class SequencerBench {

  private static final int TEXT = 1;
  private static final int RESOLUTION = 960;
  private static final int SIXTEENTH = 240;
  private static final int NOTES = 32;
  private static final int PASSES = 4;
  private static final double NANOS_BETWEEN = 125_000_000;

  private SequencerBench() {}

  /**
   * Errors of onsets in ms, against a grid through the median: the median, 99 %, and the greatest
   * on the line.
   */
  static double[] errors()
      throws InvalidMidiDataException, MidiUnavailableException, InterruptedException {
    List<Long> instants = Collections.synchronizedList(new ArrayList<>());
    try (Sequencer sequencer = MidiSystem.getSequencer(false)) {
      sequencer.open();
      sequencer.getTransmitter().setReceiver(noting(instants));
      sequencer.setSequence(sixteenths());
      sequencer.setTempoInBPM(120);
      sequencer.setLoopEndPoint((long) NOTES * SIXTEENTH);
      sequencer.setLoopCount(PASSES - 1);
      sequencer.start();
      Thread.sleep((long) (PASSES * NOTES * NANOS_BETWEEN / 1e6) + 500);
      sequencer.stop();
    }
    return summary(instants);
  }

  private static Receiver noting(List<Long> instants) {
    return new Receiver() {
      @Override
      public void send(MidiMessage message, long timeStamp) {
        if (message instanceof ShortMessage m
            && m.getCommand() == ShortMessage.NOTE_ON
            && m.getData2() > 0) {
          instants.add(System.nanoTime());
        }
      }

      @Override
      public void close() {}
    };
  }

  private static Sequence sixteenths() throws InvalidMidiDataException {
    Sequence sequence = new Sequence(Sequence.PPQ, RESOLUTION);
    Track track = sequence.createTrack();
    for (int i = 0; i < NOTES; i++) {
      track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 9, 42, 90), i * SIXTEENTH));
      track.add(
          new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, 9, 42, 0), i * SIXTEENTH + 90));
    }
    track.add(new MidiEvent(new MetaMessage(TEXT, new byte[0], 0), (long) NOTES * SIXTEENTH));
    return sequence;
  }

  private static double[] summary(List<Long> instants) {
    List<Double> offsets = new ArrayList<>();
    for (int i = 0; i < instants.size(); i++) {
      offsets.add((instants.get(i) - instants.get(0) - i * NANOS_BETWEEN) / 1e6);
    }
    List<Double> sorted = new ArrayList<>(offsets);
    Collections.sort(sorted);
    double middle = sorted.get(sorted.size() / 2);
    List<Double> errors = new ArrayList<>(offsets.stream().map(o -> Math.abs(o - middle)).toList());
    double atLine = 0;
    for (int i = NOTES; i < errors.size(); i += NOTES) {
      atLine = Math.max(atLine, errors.get(i));
    }
    Collections.sort(errors);
    return new double[] {
      errors.get(errors.size() / 2), errors.get(errors.size() * 99 / 100), atLine
    };
  }
}
