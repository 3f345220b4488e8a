"use strict";
// Each look in a frame without scripts and without network, with the page's own stylesheets. States of the pointer and the
// keyboard are classes there: an attribute or a class weighs as much as the state that it stands for.
const lists = JSON.parse(document.getElementById("sheets").textContent);
const states = /(?<!\\):(hover|active|focus-visible|focus-within|focus|user-invalid|invalid|placeholder-shown|indeterminate)(?![-\w(])/g;
const styles = lists.map(sheets => sheets.map(text => {
  const shown = text.replace(states, (state, name) => `:is(${state}, .stilk-is-${name})`);
  return `<style>${shown.replace(/<\/style/gi, "<\\/style")}</style>`;
}).join("\n"));
const policy = "<meta charset=utf-8><meta http-equiv=Content-Security-Policy content=\"default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:\">";
// The weakest layer of all: the ring that a browser draws where nobody says anything.
const ring = "<style>@layer stilk-ring { .stilk-is-focus-visible { outline: auto 1px -webkit-focus-ring-color; } } *, ::before, ::after { animation-play-state: paused !important; transition: none !important; caret-color: transparent !important; }</style>";
const WIDTH = 1280;
const AROUND = 12;

const draw = place => {
  const window = document.createElement("div");
  window.className = "window";
  const frame = document.createElement("iframe");
  frame.setAttribute("sandbox", "allow-same-origin");
  frame.title = place.dataset.title;
  frame.tabIndex = -1;
  Object.assign(frame.style, { width: `${WIDTH}px`, height: "800px" });
  frame.addEventListener("load", () => {
    const shown = frame.contentDocument.querySelector("[data-stilk-shown]");
    if (!shown) return;
    frame.contentDocument.documentElement.inert = true;
    let { left, top, right, bottom } = shown.getBoundingClientRect();
    for (const inner of shown.querySelectorAll("*")) {
      const box = inner.getBoundingClientRect();
      // What is hidden far away is no part of what is seen.
      if (box.width <= 1 || box.height <= 1 || box.right < left - 40 || box.left > right + 40) continue;
      left = Math.min(left, box.left); top = Math.min(top, box.top);
      right = Math.max(right, box.right); bottom = Math.max(bottom, box.bottom);
    }
    Object.assign(window.style, { width: `${right - left + 2 * AROUND}px`, height: `${bottom - top + 2 * AROUND}px` });
    Object.assign(frame.style, { left: `${AROUND - left}px`, top: `${AROUND - top}px`, height: `${Math.max(800, bottom + 2 * AROUND)}px` });
  });
  const doctype = place.dataset.quirks === "true" ? "" : "<!doctype html>";
  frame.srcdoc = doctype + place.dataset.html.replace("<head></head>", () => `<head>${policy}${ring}${styles[place.dataset.list]}</head>`);
  window.append(frame);
  place.append(window);
};

const seen = new IntersectionObserver(entries => {
  for (const { target, isIntersecting } of entries) {
    if (!isIntersecting) continue;
    seen.unobserve(target);
    draw(target);
  }
}, { rootMargin: "800px" });
document.querySelectorAll(".drawn").forEach(place => seen.observe(place));
