package ancora.app.files;

import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;

/** A form being filled in, with a file perhaps, as a browser sends it (RFC 7578). */
final class Post {

  private static final String LINE = "----lamp";

  private final ByteArrayOutputStream body = new ByteArrayOutputStream();

  Post with(String name, String value) {
    return part("name=\"" + name + "\"\r\n", value.getBytes(StandardCharsets.UTF_8));
  }

  Post withFile(String name, byte[] bytes) {
    String head = "name=\"file\"; filename=\"" + name + "\"\r\n";
    return part(head + "Content-Type: application/octet-stream\r\n", bytes);
  }

  private Post part(String head, byte[] bytes) {
    text("--" + LINE + "\r\nContent-Disposition: form-data; " + head + "\r\n");
    body.writeBytes(bytes);
    text("\r\n");
    return this;
  }

  private void text(String text) {
    body.writeBytes(text.getBytes(StandardCharsets.UTF_8));
  }

  HttpResponse<String> send(HttpClient client, String url, String accept) throws Exception {
    text("--" + LINE + "--\r\n");
    HttpRequest ask =
        HttpRequest.newBuilder(URI.create(url))
            .header("Content-Type", "multipart/form-data; boundary=" + LINE)
            .header("Accept", accept)
            .POST(HttpRequest.BodyPublishers.ofByteArray(body.toByteArray()))
            .build();
    return client.send(ask, HttpResponse.BodyHandlers.ofString());
  }
}
