package ancora.app.start;

import ancora.app.options.Options;
import ch.qos.logback.classic.LoggerContext;
import ch.qos.logback.classic.encoder.PatternLayoutEncoder;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.rolling.FixedWindowRollingPolicy;
import ch.qos.logback.core.rolling.RollingFileAppender;
import ch.qos.logback.core.rolling.SizeBasedTriggeringPolicy;
import ch.qos.logback.core.util.Duration;
import ch.qos.logback.core.util.FileSize;
import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import java.nio.file.Path;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * What went wrong, in a file beside the shows: a line for each fault, of each kind one a second at
 * most, and never more than {@value #FILES} files of 1 MB.
 */
@Component
class HouseLog {

  static final String NAME = "ancora.log";

  private static final int FILES = 4;
  static final FileSize LONGEST = new FileSize(FileSize.MB_COEFFICIENT);

  /** With the first of the traces only, all in one line. */
  private static final String LINE =
      "%d{yyyy-MM-dd HH:mm:ss.SSS} %-5level %logger{0}: %replace(%msg %ex{2}){'\\s*[\\r\\n]+\\s*', ' | '}%nopex%n";

  private final Path file;
  private final FileSize longest;
  private final RollingFileAppender<ILoggingEvent> appender = new RollingFileAppender<>();

  @Autowired
  HouseLog(Options options) {
    this(options.data(), LONGEST);
  }

  HouseLog(Path folder, FileSize longest) {
    this.file = folder.toAbsolutePath().resolve(NAME);
    this.longest = longest;
  }

  @PostConstruct
  void begin() {
    LoggerContext context = (LoggerContext) LoggerFactory.getILoggerFactory();
    PatternLayoutEncoder lines = new PatternLayoutEncoder();
    lines.setContext(context);
    lines.setPattern(LINE);
    lines.start();
    SizeBasedTriggeringPolicy<ILoggingEvent> size = new SizeBasedTriggeringPolicy<>();
    size.setContext(context);
    size.setMaxFileSize(longest);
    size.setCheckIncrement(Duration.buildByMilliseconds(0));
    size.start();
    appender.setFile(file.toString());
    FixedWindowRollingPolicy rolling = new FixedWindowRollingPolicy();
    rolling.setContext(context);
    rolling.setParent(appender);
    rolling.setFileNamePattern(file + ".%i");
    rolling.setMinIndex(1);
    rolling.setMaxIndex(FILES - 1);
    rolling.start();
    OneASecond one = new OneASecond(System::nanoTime);
    one.start();
    appender.setContext(context);
    appender.setName(file.toString());
    appender.setEncoder(lines);
    appender.setRollingPolicy(rolling);
    appender.setTriggeringPolicy(size);
    appender.addFilter(one);
    appender.start();
    context.getLogger(Logger.ROOT_LOGGER_NAME).addAppender(appender);
  }

  @PreDestroy
  void end() {
    LoggerContext context = (LoggerContext) LoggerFactory.getILoggerFactory();
    context.getLogger(Logger.ROOT_LOGGER_NAME).detachAppender(appender);
    appender.stop();
  }
}
