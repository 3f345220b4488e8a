"use strict";
// Pictures: each in a shadow tree with the stylesheet of its version, so that neither reaches the other.
const surfaces = JSON.parse(document.getElementById("surfaces").textContent);
const sheets = {};
for (const name of ["before", "after"]) {
  sheets[name] = new CSSStyleSheet();
  sheets[name].replaceSync(document.getElementById(`css-${name}`).content.textContent);
}
const still = new CSSStyleSheet();
still.replaceSync("*, *::before, *::after { transition: none !important; } .mount { all: initial; display: block; color-scheme: inherit; } .box { padding: 1rem; }");
for (const place of document.querySelectorAll(".place")) {
  const content = place.querySelector("template").content;
  const host = document.createElement("div");
  place.append(host);
  const root = host.attachShadow({ mode: "open" });
  root.adoptedStyleSheets = [sheets[place.dataset.css], still];
  const box = document.createElement("div");
  box.className = "box";
  for (const [name, value] of Object.entries(JSON.parse(place.dataset.contexts))) box.setAttribute(name, value);
  box.style.backgroundColor = surfaces[place.dataset.css];
  box.append(content.cloneNode(true));
  root.append(box);
  for (const input of root.querySelectorAll("[data-shown~=mixed]")) input.indeterminate = true;
}
