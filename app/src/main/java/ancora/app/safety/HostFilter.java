package ancora.app.safety;

import ancora.app.options.Options;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Turns away requests and sockets whose Host or Origin is not this house's. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class HostFilter extends OncePerRequestFilter {

  private static final String HERE =
      "This address is not known here: use http://localhost with the port.";
  private static final String ROOM =
      "This address is not known here: use the one that Ancora shows where it was started.";

  private final List<String> here;
  private final Room room;

  HostFilter(Options options, Room room) {
    this.here =
        Stream.concat(Stream.of("localhost", "127.0.0.1", "[::1]"), options.names()).toList();
    this.room = room;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String host = request.getHeader("Host");
    boolean isRoom = room.isFrom(request);
    boolean known =
        host != null && (isRoom ? room.knows(withoutPort(host)) : here.contains(withoutPort(host)));
    if (!known || !isOwn(request.getHeader("Origin"), host)) {
      response.setStatus(HttpServletResponse.SC_FORBIDDEN);
      response.setContentType("text/plain;charset=UTF-8");
      response.getWriter().write(isRoom ? ROOM : HERE);
      return;
    }
    chain.doFilter(request, response);
  }

  private static boolean isOwn(String origin, String host) {
    if (origin == null) {
      return true;
    }
    try {
      return host.equals(URI.create(origin).getAuthority());
    } catch (IllegalArgumentException malformed) {
      return false;
    }
  }

  private static String withoutPort(String host) {
    int colon = host.lastIndexOf(':');
    return colon > host.lastIndexOf(']') && colon >= 0 ? host.substring(0, colon) : host;
  }
}
