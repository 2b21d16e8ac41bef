package ancora.app.files;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.file.MidiFile;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.multipart.MultipartFile;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** The addresses of files that go out and come in. */
@Controller
class FilesPage {

  private static final MediaType MIDI = MediaType.parseMediaType("audio/midi");

  private final HouseFiles files;

  FilesPage(HouseFiles files) {
    this.files = files;
  }

  @GetMapping("/shows/{id}/show.json")
  void show(
      @PathVariable long id,
      @RequestParam(defaultValue = "false") boolean runs,
      HttpServletResponse answer)
      throws IOException {
    answer.setContentType(MediaType.APPLICATION_JSON_VALUE);
    answer.setHeader(
        HttpHeaders.CONTENT_DISPOSITION, attached(FileName.of(files.titleOf(id), "", "json")));
    files.show(id, runs, answer.getOutputStream());
  }

  @GetMapping("/shows/{id}/form.mid")
  ResponseEntity<byte[]> form(@PathVariable long id, @RequestParam(defaultValue = "1") int type) {
    return midi(files.form(id), type(type));
  }

  @GetMapping("/shows/{id}/clips/{clip}.mid")
  ResponseEntity<byte[]> clip(
      @PathVariable long id, @PathVariable int clip, @RequestParam(defaultValue = "1") int type) {
    return midi(files.clip(id, new ClipId(clip)), type(type));
  }

  /** All clips, each as a MIDI file, in one ZIP. */
  @GetMapping("/shows/{id}/clips.zip")
  void clips(@PathVariable long id, HttpServletResponse answer) throws IOException {
    answer.setContentType("application/zip");
    answer.setHeader(
        HttpHeaders.CONTENT_DISPOSITION, attached(FileName.of(files.titleOf(id), "clips", "zip")));
    files.clips(id, answer.getOutputStream());
  }

  @GetMapping("/shows/{id}/runs/{run}.mid")
  ResponseEntity<byte[]> run(
      @PathVariable long id, @PathVariable int run, @RequestParam(defaultValue = "1") int type) {
    return midi(files.run(id, run), type(type));
  }

  @GetMapping("/shows/{id}/form.rendering.json")
  @ResponseBody
  ObjectNode formRendering(@PathVariable long id) {
    return files.form(id).rendering();
  }

  @GetMapping("/shows/{id}/clips/{clip}.rendering.json")
  @ResponseBody
  ObjectNode clipRendering(@PathVariable long id, @PathVariable int clip) {
    return files.clip(id, new ClipId(clip)).rendering();
  }

  @GetMapping("/shows/{id}/runs/{run}.rendering.json")
  @ResponseBody
  ObjectNode runRendering(@PathVariable long id, @PathVariable int run) {
    return files.run(id, run).rendering();
  }

  /** What is in a file, or in a show of this house, as JSON: nothing is done with it. */
  @PostMapping("/shows/look")
  @ResponseBody
  Contents look(
      @RequestParam(required = false) MultipartFile file,
      @RequestParam(required = false) Long from,
      @RequestParam(required = false) String choice)
      throws IOException {
    if (from != null) {
      return files.look(from);
    }
    return files.look(
        name(file), file.getBytes(), Optional.ofNullable(choice).map(ChoiceJson::read));
  }

  /** What a line of a file, or a part of a show, sounds, as a page renders it: nothing is done. */
  @PostMapping("/shows/hear")
  @ResponseBody
  ObjectNode hear(
      @RequestParam(required = false) MultipartFile file,
      @RequestParam(required = false) Long from,
      @RequestParam(defaultValue = "-1") int line,
      @RequestParam(required = false) String choice)
      throws IOException {
    return from != null
        ? files.heard(from, line).rendering()
        : files
            .heard(
                name(file),
                file.getBytes(),
                line,
                Optional.ofNullable(choice).map(ChoiceJson::read))
            .rendering();
  }

  /**
   * Takes in a file, or what is chosen of another show.
   *
   * @param from the number of a show, in place of a file
   * @param into the number of the show that it is to come into; one of its own if none
   * @param choice what of it, and how, as {@link ChoiceJson} has it; all of it if none
   * @param accept whether it is answered with JSON or with a page
   */
  @PostMapping("/shows/import")
  Object take(
      @RequestParam(required = false) MultipartFile file,
      @RequestParam(required = false) Long from,
      @RequestParam(required = false) Long into,
      @RequestParam(required = false) String choice,
      @RequestHeader(name = HttpHeaders.ACCEPT, defaultValue = "") String accept,
      Model model)
      throws IOException {
    CameIn in = take(file, from, into, Optional.ofNullable(choice).map(ChoiceJson::read));
    if (accept.startsWith(MediaType.APPLICATION_JSON_VALUE)) {
      return ResponseEntity.ok(in);
    }
    model.addAttribute("in", in);
    return "came-in";
  }

  private CameIn take(MultipartFile file, Long from, Long into, Optional<JsonNode> choice)
      throws IOException {
    if (from != null) {
      Refusal.unless(into != null, "Say into which show that is to come.");
      return files.takeInto(into, from, choice);
    }
    return into == null
        ? files.take(name(file), file.getBytes(), choice)
        : files.takeInto(into, name(file), file.getBytes(), choice);
  }

  private static String name(MultipartFile file) {
    Refusal.unless(file != null, "Choose a file.");
    return Optional.ofNullable(file.getOriginalFilename()).orElse("");
  }

  private static MidiFile.Type type(int type) {
    Refusal.unless(type == 0 || type == 1, "A MIDI file is of type 0 or 1.");
    return type == 0 ? MidiFile.Type.ONE_TRACK : MidiFile.Type.TRACKS;
  }

  /** What is otherwise in a file is said in a header; it is plain text. */
  private static ResponseEntity<byte[]> midi(Piece piece, MidiFile.Type type) {
    MidiFile file = piece.midi(type);
    ResponseEntity.BodyBuilder answer =
        ResponseEntity.ok()
            .contentType(MIDI)
            .header(HttpHeaders.CONTENT_DISPOSITION, attached(piece.fileName("mid")));
    if (!file.said().isEmpty()) {
      String plain = String.join(" ", file.said()).replaceAll("[^\\x20-\\x7e]", "?");
      answer.header("X-Said", plain);
    }
    return answer.body(file.bytes());
  }

  private static String attached(String name) {
    return ContentDisposition.attachment()
        .filename(name, StandardCharsets.UTF_8)
        .build()
        .toString();
  }
}
