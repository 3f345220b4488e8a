// Everything starts here.

/** The px that an upright A4 sheet and a Letter sheet both leave between usual margins. */
const paperWidth = 680;

function look() {
  view = currentView();
  writeAddress(view);
  apply();
}

/** Goes to a place on the page and keeps the way of looking. What is mounted on the way moves it: it is held until the
    reader moves on. */
function goTo(anchor) {
  const target = anchor && document.getElementById(anchor);
  if (!target) return;
  held = target;
  holdPlace();
  const heading = target.matches("h2, [tabindex]") ? target : target.querySelector("h2, h4");
  heading?.focus({ preventScroll: true });
}

for (const event of ["wheel", "touchstart", "pointerdown", "keydown"]) {
  addEventListener(event, () => { held = null; }, { passive: true, capture: true });
}
form.addEventListener("input", look);
form.addEventListener("submit", event => event.preventDefault());
document.addEventListener("click", event => {
  const link = event.target.closest?.("a[href^='#']");
  if (!link) return;
  event.preventDefault();
  const anchor = link.getAttribute("href").slice(1);
  writeAddress(view, anchor);
  requestAnimationFrame(() => goTo(anchor));
});
document.addEventListener("click", event => {
  const play = event.target.closest?.(".play");
  if (play) play.classList.toggle("played");
});
addEventListener("hashchange", () => {
  readAddress();
  view = currentView();
  apply();
  goTo(addressed().anchor);
});
/** On paper everything is there at once, as small as it takes to fit the sheet. */
addEventListener("beforeprint", () => {
  for (const area of document.querySelectorAll("[data-sheet]")) {
    if (!("mounted" in area.dataset)) mountSheet(area);
    for (const host of area.querySelectorAll(".theme")) {
      for (const block of host.shadowRoot.querySelectorAll("tbody")) block.style.contentVisibility = "visible";
      fit([...host.shadowRoot.querySelectorAll("tbody tr")].filter(row => !row.fitted));
      const table = host.shadowRoot.querySelector("table");
      if (!table) continue;
      const box = host.shadowRoot.firstElementChild;
      box.style.zoom = Math.min(1, paperWidth / (table.scrollWidth + 40));
      // Some pictures do not shrink by as much as they were asked to.
      for (let i = 0; i < 3 && table.getBoundingClientRect().width > paperWidth; i++) {
        box.style.zoom *= .97 * paperWidth / table.getBoundingClientRect().width;
      }
    }
  }
  // What was mounted just now is watched too: nothing may be taken away again.
  near.disconnect();
  blocks.disconnect();
});
addEventListener("afterprint", () => {
  for (const area of document.querySelectorAll("[data-sheet]")) if ("mounted" in area.dataset) mountSheet(area);
  apply();
});
readAddress();
view = currentView();
apply();
for (const area of document.querySelectorAll("[data-try]")) soon.observe(area);
if (addressed().anchor) requestAnimationFrame(() => goTo(addressed().anchor));
