package ancora.bench;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.VerboseMode;

/** Measures the budgets of {@code docs/architecture.md} and prints them as a table. */
public final class Bench {

  private final List<String[]> rows = new ArrayList<>();

  private Bench() {}

  public static void main(String[] arguments) throws Exception {
    Bench bench = new Bench();
    bench.page();
    bench.engine();
    bench.print();
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
      page.openBand();
      PageBench.Frames frames = page.frames();
      row("script a frame, 8 parts of 200 notes, 99 %", pair(frames.script()), "4 ms");
      row("from frame to frame, the same, 99 %", pair(frames.apart()), "16.7 ms");
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
    micros("engine: plan of a clip of 500 notes", micros.get("planOf500Notes"), "300 µs");
    micros("engine: comp of 3600 notes", micros.get("comp"), "5000 µs");
    micros("engine: a key repeated for 6 s on 1/32 up", micros.get("releaseOfRepeated"), "5000 µs");
    micros("engine: stop after 1000 steps", micros.get("stop"), "5000 µs");
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
    System.out.printf("%-46s %-24s %s%n", "what", "measured", "budget");
    rows.forEach(row -> System.out.printf("%-46s %-24s %s%n", row[0], row[1], row[2]));
  }
}
