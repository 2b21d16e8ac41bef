package ancora.app.safety;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.List;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Turns away requests and sockets whose Host or Origin is not this house's. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class HostFilter extends OncePerRequestFilter {

  private final List<String> allowed;

  HostFilter(Safety safety) {
    this.allowed = safety.allowedHosts();
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String host = request.getHeader("Host");
    String origin = request.getHeader("Origin");
    if (host == null || !allowed.contains(withoutPort(host)) || !isOwn(origin, host)) {
      response.setStatus(HttpServletResponse.SC_FORBIDDEN);
      response.setContentType("text/plain;charset=UTF-8");
      response
          .getWriter()
          .write("This address is not known here: use http://localhost with the port.");
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
