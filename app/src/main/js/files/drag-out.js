/**
 * What can be taken along can be dragged to the desktop too: the browser fetches it there, under its own name. Links say
 * what they give by `data-file`; browsers that know nothing of it drag the link.
 */

const TYPES = { mid: "audio/midi", json: "application/json", zip: "application/zip" };

/** What some system does not have in the name of a file, as the house leaves it out too. */
const NOWHERE = /[\\/:*?"<>|\u0000-\u001f]/g;

/** Takes all drags of the page's links that give files. */
export function dragOut() {
  addEventListener("dragstart", (event) => {
    const link = /** @type {HTMLElement} */ (event.target).closest?.("a[data-file]");
    if (link instanceof HTMLAnchorElement && event.dataTransfer) {
      const name = link.dataset.file.replace(NOWHERE, " ").trim();
      const type = TYPES[name.split(".").at(-1)] ?? "application/octet-stream";
      event.dataTransfer.setData("DownloadURL", `${type}:${name}:${link.href}`);
      event.dataTransfer.effectAllowed = "copy";
    }
  });
}
