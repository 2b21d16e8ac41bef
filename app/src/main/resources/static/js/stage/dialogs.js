/** Drawers close by their button and by a touch beside them; the keys get the focus back. */
export function dialogs() {
  for (const dialog of document.querySelectorAll("dialog.over")) {
    dialog.querySelector("[data-close]").addEventListener("click", () => dialog.close());
    dialog.addEventListener("click", (event) => {
      if (event.target === dialog) {
        dialog.close();
      }
    });
  }
  document
    .getElementById("help")
    ?.addEventListener("click", () => document.getElementById("help-dialog").showModal());
}
