package ancora.bench;

import ancora.core.standin.AdLib;
import ancora.core.standin.TempoTrials;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.VerboseMode;

/** Measures the budgets of {@code docs/architecture.md} and prints them as a table. */
public final class Bench {

  /** So long the page is watched for what it gains, s; ten minutes if that is asked for. */
  private static final int SOME_TIME = Boolean.getBoolean("ancora.long") ? 600 : 60;

  private static final int TRIALS = 100;

  private final List<String[]> rows = new ArrayList<>();

  private Bench() {}

  public static void main(String[] arguments) throws Exception {
    Bench bench = new Bench();
    bench.house();
    bench.player();
    bench.start();
    bench.page();
    bench.engine();
    bench.print();
  }

  /** What the house has measured of itself, in the application's own tests. */
  private void house() throws IOException {
    for (String line : Files.readAllLines(Path.of(System.getProperty("ancora.rows")))) {
      rows.add(line.split("\t"));
    }
  }

  /** Planning alone, in the page's player under Node. */
  private void player() throws IOException {
    Process node =
        new ProcessBuilder("node", "bench/src/main/js/player-bench.mjs")
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    double[] share = new double[3];
    String text = new String(node.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    Matcher shares = Pattern.compile("\"share\":([0-9.e-]+)").matcher(text);
    for (int i = 0; shares.find(); i++) {
      share[i] = Double.parseDouble(shares.group(1));
    }
    row(
        "planning, share of a block, 16 × 200 notes",
        String.format(Locale.ROOT, "%.2f %%", 100 * share[1]),
        "2 %");
    row(
        "  16 × 4000 against 16 × 40, as many sounding",
        String.format(Locale.ROOT, "%.2f times", share[2] / share[0]),
        "1.5 times");
  }

  /** With its classes shared and without, in turn. */
  private void start() throws Exception {
    List<String> with = PageBench.launch();
    List<String> without =
        with.stream().filter(word -> !word.startsWith("-XX:SharedArchiveFile")).toList();
    double[] shared = new double[3];
    double[] alone = new double[3];
    for (int i = 0; i < 3; i++) {
      shared[i] = PageBench.secondsToStart(with);
      alone[i] = PageBench.secondsToStart(without);
    }
    Arrays.sort(shared);
    Arrays.sort(alone);
    row(
        "start with classes shared against without",
        String.format(
            Locale.ROOT, "%.2f (%.1f / %.1f s)", shared[1] / alone[1], shared[1], alone[1]),
        "0.65");
  }

  private void page() throws Exception {
    try (PageBench page = new PageBench()) {
      row("start to first page", "%.1f s".formatted(page.startSeconds()), "8 s");
      row("command to acknowledgement, 99 %", pair(page.acknowledgement()), "15 ms");
      page.openPage();
      row("a cue, cut or peel to its effect (D)", "%.0f ms".formatted(page.delayMillis()), "40 ms");
      double[] onsets = page.recordedOnsets();
      row(
          "recorded onset against the key, median",
          "%.2f ms".formatted(onsets[0]),
          "½ tick + 0.5 ms");
      row("recorded onset against the key, 99 %", "%.2f ms".formatted(onsets[1]), "2 ms");
      row("onsets of a loop, median / 99 % / line", three(page.renderedOnsets()), "0 samples");
      row("  the same, the JDK's sequencer", three(SequencerBench.errors()), "to compare");
      PageBench.Wav wav = page.wav();
      row(
          "WAV of %.0f s, 5 parts: times faster than it sounds".formatted(wav.seconds()),
          "%.1f".formatted(wav.mix()),
          "5");
      row(
          "  with each part by itself in the same pass",
          "%.1f (%.2f of it)".formatted(wav.each(), wav.each() / wav.mix()),
          "within 10 %");
      page.openBand();
      PageBench.Frames frames = page.frames();
      row("script a frame, 16 parts of 200 notes, 99 %", pair(frames.script()), "1.5 ms");
      row("from frame to frame, the same, 99 %", pair(frames.apart()), "16.7 ms");
      PageBench.Gained gained = page.gained(SOME_TIME);
      row(
          "  after %d s more: heap, nodes, listeners".formatted(SOME_TIME),
          "%+.1f MB %+d %+d".formatted(gained.heap(), gained.nodes(), gained.listeners()),
          "level");
      PageBench.Workshop workshop = page.workshop();
      row("Workshop of 4000 notes: opening", "%.0f ms".formatted(workshop.opening()), "300 ms");
      row("  script a frame while it sounds, 99 %", pair(workshop.frames().script()), "6 ms");
      PageBench.Pedal pedal = page.pedal();
      row("pedal to acknowledgement, the same, 99 %", pair(pedal.acknowledged()), "to compare");
      row("pedal to new words, the same, 99 %", pair(pedal.words()), "to compare");
    }
  }

  private void engine() throws Exception {
    Collection<RunResult> results =
        new Runner(
                new OptionsBuilder()
                    .include(EngineBench.class.getSimpleName())
                    .verbosity(VerboseMode.SILENT)
                    .build())
            .run();
    Map<String, Double> micros = new HashMap<>();
    for (RunResult result : results) {
      String name = result.getParams().getBenchmark();
      micros.put(name.substring(name.lastIndexOf('.') + 1), result.getPrimaryResult().getScore());
    }
    micros("engine: one note (down and up), 16×16×200", micros.get("noteEvent"), "100 µs");
    micros("engine and plan: the same", micros.get("noteAndPlan"), "100 µs");
    double many = micros.get("noteAndPlanOfAsMany");
    micros("  in a clip of 1200 notes", many, "to compare");
    double passed = micros.get("noteAndPlanAfterPasses");
    micros("  in one of 200 after 1000 passes, a note in each", passed, "1.3 times that");
    double few = micros.get("noteOntoFewOfItsPitch");
    micros("  onto 100 of its own pitch", few, "500 µs");
    micros("  onto 1500", micros.get("noteOntoManyOfItsPitch"), "3 times that, 500 µs");
    micros("  onto 3500", micros.get("noteOntoMostOfItsPitch"), "3 times that, 500 µs");
    micros(
        "engine: lengths of 3500 notes of one pitch", micros.get("lengthsOfOnePitch"), "10000 µs");
    micros("engine: undo of a rename, 16×16×200", micros.get("undoOfARename"), "1000 µs");
    micros("engine: a press taken back, 4 commands since", micros.get("pressTakenBack"), "2000 µs");
    micros(
        "engine: forecast and lamps of 40 controls", micros.get("forecastOf40Controls"), "5000 µs");
    micros("engine: plan of a clip of 500 notes", micros.get("planOf500Notes"), "300 µs");
    micros("engine: comp of 3600 notes", micros.get("comp"), "5000 µs");
    micros("engine: a key repeated for 6 s on 1/32 up", micros.get("releaseOfRepeated"), "5000 µs");
    micros("engine: stop after 1000 steps", micros.get("stop"), "5000 µs");
    micros("tempo found in 500 onsets", micros.get("tempoOf500"), "5000 µs");
    micros("  in 5000", micros.get("tempoOf5000"), "50000 µs");
    for (double spread : new double[] {15, 30}) {
      row(
          "  found, of 500 of five kinds, hand of %.0f ms".formatted(spread),
          hits(spread),
          spread < 20 ? "98 of 100" : "90 of 100");
    }
  }

  /** Tempi and downbeats found, of a hundred. */
  private static String hits(double spread) {
    double tempo = 0;
    double bars = 0;
    for (AdLib kind : AdLib.values()) {
      TempoTrials.Hits hits =
          TempoTrials.of(kind, false, new AdLib.Hand(0, spread, 0, 0), TRIALS, 2026);
      tempo += hits.tempo() / AdLib.values().length;
      bars += hits.bars() / AdLib.values().length;
    }
    return String.format(Locale.ROOT, "%.1f, bars %.1f", tempo, bars);
  }

  private void micros(String what, double micros, String budget) {
    row(what, String.format(Locale.ROOT, "%.1f µs", micros), budget);
  }

  private void row(String what, String measured, String budget) {
    rows.add(new String[] {what, measured, budget});
  }

  private static String three(double[] errors) {
    return String.format(Locale.ROOT, "%.2f / %.2f / %.2f ms", errors[0], errors[1], errors[2]);
  }

  private static String pair(double[] medianAnd99) {
    return String.format(Locale.ROOT, "%.1f ms (median %.1f)", medianAnd99[1], medianAnd99[0]);
  }

  private void print() {
    System.out.printf("%-50s %-24s %s%n", "what", "measured", "budget");
    rows.forEach(row -> System.out.printf("%-50s %-24s %s%n", row[0], row[1], row[2]));
  }
}
