// The system's stylesheet is on the page once; every mounted sheet adopts it.
const system = new CSSStyleSheet();
system.replaceSync(document.getElementById("system").content.textContent);
// Nothing moves while the styles arrive.
const still = new CSSStyleSheet();
still.replaceSync("*, *::before, *::after { transition: none !important; }");
const hosts = document.querySelectorAll("div.sheet, div.cards");
for (const host of hosts) {
  host.shadowRoot.adoptedStyleSheets = [system, still];
  for (const box of host.shadowRoot.querySelectorAll("[data-shown~=mixed]")) box.indeterminate = true;
}
// A picture is as large as what it shows: an open panel must not lie over its neighbours.
for (const host of document.querySelectorAll("div.sheet")) {
  for (const mount of host.shadowRoot.querySelectorAll(".mount")) {
    const box = mount.getBoundingClientRect();
    let right = box.right, bottom = box.bottom;
    for (const inner of mount.querySelectorAll("*")) {
      const style = getComputedStyle(inner);
      if (style.position !== "absolute" || style.visibility === "hidden" || style.opacity === "0") continue;
      const own = inner.getBoundingClientRect();
      right = Math.max(right, own.right);
      bottom = Math.max(bottom, own.bottom);
    }
    if (bottom > box.bottom + 8) mount.style.minBlockSize = `${bottom - box.top}px`;
    if (right > box.right + 8) mount.style.minInlineSize = `${right - box.left}px`;
  }
}
document.body.getBoundingClientRect();
requestAnimationFrame(() => requestAnimationFrame(() => {
  for (const host of hosts) host.shadowRoot.adoptedStyleSheets = [system];
}));
