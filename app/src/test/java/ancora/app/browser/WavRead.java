package ancora.app.browser;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioInputStream;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.UnsupportedAudioFileException;

/**
 * A WAV file as the JDK reads it; {@link #sox} asks another reader, Debian's sox.
 *
 * @param format as the file says it
 * @param samples frame by frame, left and right, −1 to 1
 */
record WavRead(AudioFormat format, double[] samples) {

  static WavRead of(byte[] bytes) throws IOException {
    try (AudioInputStream in = AudioSystem.getAudioInputStream(new ByteArrayInputStream(bytes))) {
      byte[] data = in.readAllBytes();
      int size = in.getFormat().getSampleSizeInBits() / 8;
      double[] samples = new double[data.length / size];
      for (int i = 0; i < samples.length; i++) {
        int value = data[(i + 1) * size - 1];
        for (int b = size - 2; b >= 0; b--) {
          value = value << 8 | data[i * size + b] & 0xff;
        }
        samples[i] = value / (double) ((1 << 8 * size - 1) - 1);
      }
      return new WavRead(in.getFormat(), samples);
    } catch (UnsupportedAudioFileException none) {
      throw new IOException(none);
    }
  }

  int frames() {
    return samples.length / 2;
  }

  double left(int frame) {
    return samples[2 * frame];
  }

  /** The level of one side in some frames, in dB. */
  double level(int side, int from, int count) {
    double sum = 0;
    for (int i = from; i < from + count; i++) {
      sum += samples[2 * i + side] * samples[2 * i + side];
    }
    return 10 * Math.log10(sum / count + 1e-12);
  }

  double peak() {
    double peak = 0;
    for (double sample : samples) {
      peak = Math.max(peak, Math.abs(sample));
    }
    return peak;
  }

  /** What sox says of a file, by a word of its own: "Length (seconds)", "RMS amplitude". */
  static double sox(Path file, String word) throws IOException, InterruptedException {
    String said = run(List.of("sox", file.toString(), "-n", "stat"));
    Matcher found = Pattern.compile(Pattern.quote(word) + ":\\s+(-?[\\d.]+)").matcher(said);
    if (!found.find()) {
      throw new IOException(said);
    }
    return Double.parseDouble(found.group(1));
  }

  /** How many frames sox finds in a file. */
  static long soxFrames(Path file) throws IOException, InterruptedException {
    return Long.parseLong(run(List.of("sox", "--i", "-s", file.toString())).strip());
  }

  private static String run(List<String> command) throws IOException, InterruptedException {
    Path out = Files.createTempFile("sox", ".txt");
    Process process =
        new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(out.toFile()).start();
    if (!process.waitFor(120, TimeUnit.SECONDS)) {
      process.destroy();
      throw new IOException(command + " does not end");
    }
    return Files.readString(out);
  }
}
