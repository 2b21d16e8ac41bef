package ancora.app.stage;

import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.socket.config.annotation.EnableWebSocket;
import org.springframework.web.socket.config.annotation.WebSocketConfigurer;
import org.springframework.web.socket.config.annotation.WebSocketHandlerRegistry;
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
    registry.addHandler(socket, "/socket/{show}");
  }

  @Bean
  ServletServerContainerFactoryBean container() {
    ServletServerContainerFactoryBean container = new ServletServerContainerFactoryBean();
    container.setMaxTextMessageBufferSize(StageSocket.LONGEST_MESSAGE * 4);
    return container;
  }
}
