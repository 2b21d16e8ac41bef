package ancora.app.safety;

import ancora.app.options.Options;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.apache.catalina.connector.Connector;
import org.apache.coyote.http11.Http11NioProtocol;
import org.apache.tomcat.util.net.SSLHostConfig;
import org.apache.tomcat.util.net.SSLHostConfigCertificate;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.stereotype.Component;

/**
 * The door to the room: a port of its own, on all networks of this machine, where others come in
 * with a pass phrase. This machine itself goes on being spoken to on the other port.
 */
@Component
class Room implements WebServerFactoryCustomizer<TomcatServletWebServerFactory> {

  private final Options options;
  private final Optional<Connector> door;
  private final Optional<Certificate> certificate;
  private final Optional<PassPhrases> phrases;
  private final Addresses machine = Addresses.ofThisMachine();

  Room(Options options) {
    this.options = options;
    boolean open = options.listenPort().isPresent();
    this.certificate =
        open && !options.plain()
            ? Optional.of(Certificate.of(options.data(), machine))
            : Optional.empty();
    this.phrases = open ? Optional.of(PassPhrases.of(options.data())) : Optional.empty();
    this.door = open ? Optional.of(door()) : Optional.empty();
  }

  private Connector door() {
    Connector connector = new Connector(Http11NioProtocol.class.getName());
    connector.setPort(options.listenPort().getAsInt());
    certificate.ifPresent(
        own -> {
          SSLHostConfig host = new SSLHostConfig();
          SSLHostConfigCertificate key =
              new SSLHostConfigCertificate(host, SSLHostConfigCertificate.Type.EC);
          key.setCertificateKeystoreFile(own.file().toString());
          key.setCertificateKeystorePassword(Certificate.PASSWORD);
          key.setCertificateKeystoreType("PKCS12");
          key.setCertificateKeyAlias(Certificate.ALIAS);
          host.addCertificate(key);
          host.setProtocols("TLSv1.2+TLSv1.3");
          connector.addSslHostConfig(host);
          connector.setScheme("https");
          connector.setSecure(true);
          connector.setProperty("SSLEnabled", "true");
        });
    return connector;
  }

  @Override
  public void customize(TomcatServletWebServerFactory factory) {
    door.ifPresent(factory::addAdditionalConnectors);
  }

  boolean isOpen() {
    return door.isPresent();
  }

  /** Whether a request came in by it. */
  boolean isFrom(HttpServletRequest request) {
    return door.isPresent() && request.getLocalPort() == port();
  }

  int port() {
    return door.orElseThrow().getLocalPort();
  }

  PassPhrases phrases() {
    return phrases.orElseThrow();
  }

  Optional<Certificate> certificate() {
    return certificate;
  }

  /** The addresses at which others find it, the likeliest first; none without a network. */
  List<String> addresses() {
    String scheme = options.plain() ? "http" : "https";
    return machine.numbers().stream()
        .map(number -> number.contains(":") ? "[" + number + "]" : number)
        .map(number -> scheme + "://" + number + ":" + port() + "/")
        .toList();
  }

  /** Whether pages may be asked for under a host: by a number, or by a name that is known. */
  boolean knows(String host) {
    return Addresses.isNumber(host)
        || Stream.concat(machine.names(), options.names()).anyMatch(host::equalsIgnoreCase);
  }
}
