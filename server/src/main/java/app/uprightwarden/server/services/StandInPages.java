package app.uprightwarden.server.services;

import app.uprightwarden.core.control.Control;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import org.springframework.stereotype.Component;

/** Does on a stand-in's own page what somebody there would do, for the demo. */
@Component
public class StandInPages {
  private final HttpClient http = HttpClient.newHttpClient();

  /**
   * Changes a setting of a meeting.
   *
   * @param address of the stand-in
   * @param meeting its id there
   * @param by as whom
   */
  public void change(String address, String meeting, String by, Control control, String value) {
    String form =
        "meeting="
            + encoded(meeting)
            + "&by="
            + encoded(by)
            + "&control="
            + control.id()
            + "&value="
            + encoded(value);
    send(address, "/change", form);
  }

  /** Fills in the form by which somebody asks to take part. */
  public void register(String address, String meeting, String name, String mail) {
    send(
        address,
        "/register",
        "meeting=" + encoded(meeting) + "&name=" + encoded(name) + "&address=" + encoded(mail));
  }

  private void send(String address, String path, String form) {
    try {
      http.send(
          HttpRequest.newBuilder(URI.create(address + path))
              .header("Origin", address)
              .POST(HttpRequest.BodyPublishers.ofString(form))
              .build(),
          HttpResponse.BodyHandlers.discarding());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }
}
