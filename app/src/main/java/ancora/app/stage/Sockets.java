package ancora.app.stage;

import jakarta.servlet.http.HttpSession;
import java.util.Map;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.server.ServerHttpRequest;
import org.springframework.http.server.ServerHttpResponse;
import org.springframework.http.server.ServletServerHttpRequest;
import org.springframework.web.socket.WebSocketHandler;
import org.springframework.web.socket.config.annotation.EnableWebSocket;
import org.springframework.web.socket.config.annotation.WebSocketConfigurer;
import org.springframework.web.socket.config.annotation.WebSocketHandlerRegistry;
import org.springframework.web.socket.server.HandshakeInterceptor;
import org.springframework.web.socket.server.standard.ServletServerContainerFactoryBean;

/** Where the sockets are. Host and Origin are checked before, as for every request. */
@Configuration
@EnableWebSocket
class Sockets implements WebSocketConfigurer {

  private final StageSocket socket;

  Sockets(StageSocket socket) {
    this.socket = socket;
  }

  @Override
  public void registerWebSocketHandlers(WebSocketHandlerRegistry registry) {
    registry.addHandler(socket, "/socket/{show}").addInterceptors(new OfAVisit());
  }

  /** A socket knows the visit that it is of, if somebody has come in from the room. */
  private static final class OfAVisit implements HandshakeInterceptor {

    @Override
    public boolean beforeHandshake(
        ServerHttpRequest request,
        ServerHttpResponse response,
        WebSocketHandler handler,
        Map<String, Object> attributes) {
      HttpSession visit =
          ((ServletServerHttpRequest) request).getServletRequest().getSession(false);
      if (visit != null) {
        attributes.put(StageSocket.VISIT, visit);
      }
      return true;
    }

    @Override
    public void afterHandshake(
        ServerHttpRequest request,
        ServerHttpResponse response,
        WebSocketHandler handler,
        Exception failure) {
      // nothing was begun
    }
  }

  @Bean
  ServletServerContainerFactoryBean container() {
    ServletServerContainerFactoryBean container = new ServletServerContainerFactoryBean();
    container.setMaxTextMessageBufferSize(StageSocket.LONGEST_MESSAGE * 4);
    return container;
  }
}
