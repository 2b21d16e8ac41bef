package ancora.app.safety;

import ancora.core.Refusal;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.MessageDigest;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HexFormat;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;

/**
 * The house's own certificate: nobody has signed it, so that a tablet asks once whether to trust
 * it. It is kept with the shows, and made anew when this machine is found under another address, or
 * when it is about to expire.
 *
 * @param file a PKCS 12 file (RFC 7292) with the key in it
 * @param fingerprint the SHA-256 of the certificate, as browsers show it
 */
record Certificate(Path file, String fingerprint) {

  static final String FILE = "certificate.p12";

  /** It hides nothing: who may read the file may come in anyway. Java's own writer asks for one. */
  static final String PASSWORD = "ancora";

  static final String ALIAS = "house";

  /** Browsers trust none that is good for longer than 825 days (from memory). */
  private static final int DAYS = 820;

  private static final Duration SOON = Duration.ofDays(30);

  /** It goes on naming the addresses of other halls, so many in all. */
  private static final int MOST_NAMES = 40;

  /** Kinds of names in a certificate (RFC 5280, section 4.2.1.6). */
  private static final int DNS = 2;

  private static final int IP = 7;

  /** The certificate of a folder, made there if there is none that names this machine. */
  static Certificate of(Path folder, Addresses machine) {
    Path file = folder.resolve(FILE);
    Set<String> names = new LinkedHashSet<>();
    machine.names().forEach(name -> names.add("dns:" + name));
    machine.numbers().forEach(number -> names.add("ip:" + number));
    names.add("ip:127.0.0.1");
    Optional<X509Certificate> there = read(file);
    Set<String> named = there.map(Certificate::names).orElse(Set.of());
    boolean good =
        there.isPresent()
            && named.containsAll(lower(names))
            && there.get().getNotAfter().toInstant().isAfter(Instant.now().plus(SOON));
    if (!good) {
      names.addAll(named);
      make(file, names.stream().limit(MOST_NAMES).toList());
    }
    X509Certificate certificate =
        read(file)
            .orElseThrow(
                () -> new Refusal("The certificate %s cannot be read: delete it.".formatted(file)));
    return new Certificate(file, fingerprint(certificate));
  }

  private static List<String> lower(Collection<String> names) {
    return names.stream().map(name -> name.toLowerCase(java.util.Locale.ROOT)).toList();
  }

  private static Optional<X509Certificate> read(Path file) {
    if (!Files.exists(file)) {
      return Optional.empty();
    }
    try (InputStream in = Files.newInputStream(file)) {
      KeyStore store = KeyStore.getInstance("PKCS12");
      store.load(in, PASSWORD.toCharArray());
      return Optional.ofNullable((X509Certificate) store.getCertificate(ALIAS));
    } catch (IOException | GeneralSecurityException broken) {
      return Optional.empty();
    }
  }

  private static Set<String> names(X509Certificate certificate) {
    try {
      Collection<List<?>> names = certificate.getSubjectAlternativeNames();
      return names == null
          ? Set.of()
          : names.stream()
              .filter(name -> name.get(0).equals(DNS) || name.get(0).equals(IP))
              .map(name -> (name.get(0).equals(DNS) ? "dns:" : "ip:") + name.get(1))
              .map(name -> name.toLowerCase(java.util.Locale.ROOT))
              .collect(Collectors.toCollection(LinkedHashSet::new));
    } catch (GeneralSecurityException none) {
      return Set.of();
    }
  }

  /** By Java's own keytool, as no interface of Java's makes certificates. */
  private static void make(Path file, List<String> names) {
    Path part = file.resolveSibling(FILE + ".part");
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "keytool").toString());
    // it is over before more would have been worth it
    command.addAll(List.of("-J-XX:TieredStopAtLevel=1", "-J-XX:+UseSerialGC"));
    command.addAll(
        List.of("-genkeypair", "-alias", ALIAS, "-keyalg", "EC", "-groupname", "secp256r1"));
    command.addAll(List.of("-sigalg", "SHA256withECDSA", "-validity", Integer.toString(DAYS)));
    command.addAll(List.of("-dname", "CN=Ancora", "-ext", "san=" + String.join(",", names)));
    command.addAll(List.of("-ext", "eku=serverAuth", "-ext", "ku=digitalSignature"));
    command.addAll(List.of("-storetype", "PKCS12", "-keystore", part.toString()));
    command.addAll(List.of("-storepass", PASSWORD));
    try {
      Files.createDirectories(file.getParent());
      Files.deleteIfExists(part);
      Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
      process.getOutputStream().close();
      String said =
          new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
      Refusal.unless(
          process.waitFor(1, TimeUnit.MINUTES) && process.exitValue() == 0,
          "No certificate could be made (%s): use --listen --plain.",
          said);
      OwnerOnly.close(part);
      Files.move(part, file, StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException failure) {
      throw new Refusal(
          "No certificate could be written to %s: use another folder (--data=FOLDER)."
              .formatted(file));
    } catch (InterruptedException ending) {
      Thread.currentThread().interrupt();
      throw new Refusal("Ancora was ended before it had a certificate.");
    }
  }

  private static String fingerprint(X509Certificate certificate) {
    try {
      byte[] digest = MessageDigest.getInstance("SHA-256").digest(certificate.getEncoded());
      return HexFormat.ofDelimiter(":").withUpperCase().formatHex(digest);
    } catch (GeneralSecurityException none) {
      throw new IllegalStateException(none);
    }
  }
}
