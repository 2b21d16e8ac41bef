package ancora.app.files;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.file.MidiFile;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The addresses of files that go out and come in. */
@Controller
class FilesPage {

  private static final MediaType MIDI = MediaType.parseMediaType("audio/midi");

  private final HouseFiles files;

  FilesPage(HouseFiles files) {
    this.files = files;
  }

  @GetMapping("/shows/{id}/show.json")
  ResponseEntity<byte[]> show(
      @PathVariable long id, @RequestParam(defaultValue = "false") boolean runs) {
    return attached("show.json", MediaType.APPLICATION_JSON, files.show(id, runs), List.of());
  }

  @GetMapping("/shows/{id}/form.mid")
  ResponseEntity<byte[]> form(@PathVariable long id, @RequestParam(defaultValue = "1") int type) {
    return midi("form.mid", files.form(id, type(type)));
  }

  @GetMapping("/shows/{id}/clips/{clip}.mid")
  ResponseEntity<byte[]> clip(
      @PathVariable long id, @PathVariable int clip, @RequestParam(defaultValue = "1") int type) {
    return midi("clip.mid", files.clip(id, new ClipId(clip), type(type)));
  }

  @GetMapping("/shows/{id}/runs/{run}.mid")
  ResponseEntity<byte[]> run(
      @PathVariable long id, @PathVariable int run, @RequestParam(defaultValue = "1") int type) {
    return midi("run.mid", files.run(id, run, type(type)));
  }

  /**
   * Takes in a file.
   *
   * @param into the number of a show, for a MIDI file that is to come into it
   * @param accept whether it is answered with JSON or with a page
   */
  @PostMapping("/shows/import")
  Object take(
      @RequestParam MultipartFile file,
      @RequestParam(required = false) Long into,
      @RequestHeader(name = HttpHeaders.ACCEPT, defaultValue = "") String accept,
      Model model)
      throws IOException {
    String name = Optional.ofNullable(file.getOriginalFilename()).orElse("");
    boolean asJson = accept.startsWith(MediaType.APPLICATION_JSON_VALUE);
    try {
      CameIn in = files.take(name, file.getBytes(), Optional.ofNullable(into), Optional.empty());
      if (asJson) {
        return ResponseEntity.ok(in);
      }
      model.addAttribute("in", in);
      return "came-in";
    } catch (Refusal refusal) {
      if (asJson) {
        return ResponseEntity.status(HttpStatus.UNPROCESSABLE_ENTITY)
            .body(Map.of("why", refusal.getMessage()));
      }
      throw refusal;
    }
  }

  private static MidiFile.Type type(int type) {
    Refusal.unless(type == 0 || type == 1, "A MIDI file is of type 0 or 1.");
    return type == 0 ? MidiFile.Type.ONE_TRACK : MidiFile.Type.TRACKS;
  }

  private static ResponseEntity<byte[]> midi(String name, MidiFile file) {
    return attached(name, MIDI, file.bytes(), file.said());
  }

  /** What is otherwise in a file is said in a header; it is plain text. */
  private static ResponseEntity<byte[]> attached(
      String name, MediaType type, byte[] bytes, List<String> said) {
    ResponseEntity.BodyBuilder answer =
        ResponseEntity.ok()
            .contentType(type)
            .header(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment().filename(name).build().toString());
    if (!said.isEmpty()) {
      String plain = String.join(" ", said).replaceAll("[^\\x20-\\x7e]", "?");
      answer.header("X-Said", plain);
    }
    return answer.body(bytes);
  }
}
