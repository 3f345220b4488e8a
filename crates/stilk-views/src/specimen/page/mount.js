// Pictures: mounted where they come near, one shadow tree for each theme, so that neither the page's rules nor another theme's
// ids reach them.
const sheets = {};
for (const name of ["pictures", "trial", "ground"]) {
  sheets[name] = new CSSStyleSheet();
  sheets[name].replaceSync(document.getElementById(`css-${name}`).content.textContent);
}
sheets.modes = new CSSStyleSheet();
sheets.still = new CSSStyleSheet();
sheets.still.replaceSync("*, *::before, *::after { transition: none !important; }");

let view = currentView();

/** Rules of a mode apply to every picture. */
function setModes() {
  const rules = [];
  if (view.zoom) rules.push(`.mount { zoom: ${Number(view.zoom)}; }`);
  if (view.width) rules.push(`td > .mount, .mount { inline-size: ${view.width}px; max-inline-size: none; }`);
  if (view.spacing) {
    rules.push(`.mount * { line-height: 1.5 !important; letter-spacing: .12em !important; word-spacing: .16em !important; }`);
    rules.push(`.mount p { margin-block-end: 2em !important; }`);
  }
  if (view.boxes === "boxes") rules.push(`.mount * { outline: 1px dashed light-dark(#d0006f, #ff7ac1) !important; outline-offset: -1px !important; }`);
  const text = rules.join("\n");
  // A sheet that is replaced styles anew whatever has taken it, even by the same rules.
  if (text !== sheets.modes.text) sheets.modes.replaceSync(sheets.modes.text = text);
  document.documentElement.dataset.vision = view.vision;
  setMotion(sheets.pictures);
  setMotion(sheets.trial);
}

/** What the sheet says for people who prefer less motion, whatever this device prefers. */
function setMotion(sheet) {
  const visit = rules => {
    for (const rule of rules) {
      if (rule instanceof CSSMediaRule) {
        const was = rule.said ?? (rule.said = rule.media.mediaText);
        if (was.includes("prefers-reduced-motion")) {
          const reduced = was.replace(/\(prefers-reduced-motion: no-preference\)/g, "(width < 0px)").replace(/\(prefers-reduced-motion(: reduce)?\)/g, "(width >= 0px)");
          rule.media.mediaText = view.motion === "reduced" ? reduced : was;
        }
      }
      if (rule.cssRules) visit(rule.cssRules);
    }
  };
  visit(sheet.cssRules);
}

/** Transitions and animations at a tenth of their speed. */
function slow(root) {
  const all = () => {
    if (view.motion === "slow") root.getAnimations().forEach(animation => { animation.playbackRate = .1; });
  };
  for (const event of ["transitionrun", "animationstart"]) root.addEventListener(event, all);
  all();
}

/** A shadow tree with a surface in a theme, and what a function puts on it. */
function ground(parent, theme, kind, styles, fill) {
  const host = document.createElement("div");
  host.className = "theme";
  parent.append(host);
  const root = host.attachShadow({ mode: "open" });
  root.adoptedStyleSheets = [sheets.ground, ...styles, sheets.modes, sheets.still];
  const box = document.createElement("div");
  box.className = kind;
  theme.contexts.forEach((context, index) => {
    const modifier = data.modifiers[index];
    box.setAttribute(modifier.attribute, modifier.contexts[context]);
  });
  box.style.backgroundColor = data.surface;
  box.style.setProperty("--specimen-surface", data.surface);
  if (view.dir) box.dir = view.dir;
  fill(box);
  root.append(box);
  for (const input of root.querySelectorAll("[data-shown~=mixed]")) input.indeterminate = true;
  // Nothing moves while styles arrive.
  requestAnimationFrame(() => requestAnimationFrame(() => {
    root.adoptedStyleSheets = root.adoptedStyleSheets.filter(sheet => sheet !== sheets.still);
    slow(root);
  }));
  return root;
}

function figure(cell, code) {
  const span = document.createElement("span");
  const [ratio, needed] = code.replace(/^!/, "").split("/");
  span.className = "figure";
  if (code.startsWith("!")) {
    span.classList.add("fails");
    span.textContent = `✗ ${ratio}`;
    span.title = `contrast ${ratio} is too low: needs ${needed}`;
  } else if (code.startsWith("(")) {
    span.classList.add("exempt");
    span.textContent = code;
    span.title = "WCAG asks no contrast of what cannot be used";
  } else if (code.startsWith("?")) {
    span.classList.add("exempt");
    span.textContent = "unknown";
    span.title = data.reasons[Number(code.slice(1))];
  } else if (code === "-") {
    span.classList.add("exempt");
    span.textContent = "no text";
    span.title = "no text is painted";
  } else {
    span.textContent = ratio;
    span.title = `contrast ${ratio}, needs ${needed}`;
  }
  cell.append(span);
}

const byName = new Map(data.controls.map(control => [control.name, control]));
const codes = (control, theme) => control.figures[theme.place].split("|");
const fails = (control, theme) => codes(control, theme).some(code => code.startsWith("!"));

function fillTable(box, name, theme) {
  const control = byName.get(name);
  box.append(document.getElementById(`sheet-${name}`).content.cloneNode(true));
  box.querySelector("th.theme").textContent = theme.name;
  const all = codes(control, theme);
  box.querySelectorAll("td").forEach((cell, index) => {
    cell.place = index;
    figure(cell, all[index]);
    const before = changed.get(`${name}|${theme.place}|${index}`);
    if (before !== undefined) mark(cell, before);
  });
  // Findings that are no matter of a cell leave all rows.
  const failing = view.only !== "" && box.querySelector(".fails");
  for (const row of box.querySelectorAll("tbody tr")) {
    const found = row.textContent.toLowerCase().includes(view.find.toLowerCase()) || matches(name);
    row.hidden = !found || (failing && !row.querySelector(".fails"));
  }
  // What a long table is laid out by; the others join once columns are fixed.
  const shown = [...box.querySelectorAll("tbody tr:not([hidden])")];
  for (const row of shown.slice(measured)) row.remove();
  box.querySelector("table").later = shown.slice(measured);
}

/** So many rows of a table decide how wide its columns are; so many stand in a block that is laid out by itself. */
const measured = 24, together = 4;

/** Fixes the columns of a table and parts its rows into blocks that the browser leaves out while they are out of sight: with
    thousands of cells, only what is seen is styled and laid out. */
function part(table) {
  const rows = [...table.querySelectorAll("tbody tr:not([hidden])")];
  if (rows.length <= together) return;
  table.widths = [...table.querySelectorAll("thead th")].map(cell => cell.getBoundingClientRect().width);
  const heights = rows.map(row => row.getBoundingClientRect().height);
  const usual = heights.reduce((sum, height) => sum + height, 0) / heights.length;
  const all = [...rows, ...table.later];
  for (let first = 0; first < all.length; first += together) {
    const block = document.createElement("tbody");
    const own = all.slice(first, first + together);
    const height = own.reduce((sum, _, index) => sum + (heights[first + index] ?? usual), 0);
    block.style.containIntrinsicBlockSize = `auto ${height}px`;
    block.style.contentVisibility = "hidden";
    block.append(...own);
    table.append(block);
  }
  table.later = [];
  if (!table.tBodies[0].rows.length) table.tBodies[0].remove();
  // Cells that are no table cells to the layout stay so for assistive technology.
  table.setAttribute("role", "table");
  for (const [selector, role] of [["thead, tbody", "rowgroup"], ["tr", "row"], ["thead th", "columnheader"], ["tbody th", "rowheader"], ["td", "cell"]]) {
    for (const element of table.querySelectorAll(selector)) element.setAttribute("role", role);
  }
  widen(table, 0, 0);
  table.classList.add("long");
}

/** A column is as wide as the widest cell that was seen. */
function widen(table, column, width) {
  table.widths[column] = Math.max(table.widths[column], width);
  table.style.setProperty("--columns", table.widths.map(width => `minmax(${Math.ceil(width)}px, max-content)`).join(" "));
}

function fillCard(box, theme) {
  const title = document.createElement("h3");
  title.textContent = theme.name;
  title.dir = "ltr";
  box.append(title, document.getElementById("sheet-glance").content.cloneNode(true));
  for (const item of box.querySelectorAll(".item")) {
    const control = byName.get(item.dataset.name);
    if (fails(control, theme)) item.querySelector(".name").classList.add("fails");
    item.hidden = !matches(control.name) || (view.only !== "" && !fails(control, theme));
  }
}

/** Cells whose figure or look is another one since the last save, with what it was. */
const changed = new Map();

function mark(cell, before) {
  cell.classList.add("changed");
  const now = cell.querySelector(".figure");
  if (now && before && before !== now.textContent) now.textContent = `${before} → ${now.textContent}`;
}

/** What shows of a cell's elements; two looks that are equal in it are taken for one. */
const showing = ["color", "background-color", "background-image", "border-top-color", "border-top-width", "border-top-style",
  "border-top-left-radius", "box-shadow", "outline-color", "outline-style", "outline-width", "outline-offset", "opacity", "visibility",
  "display", "font-size", "font-weight", "font-family", "line-height", "letter-spacing", "text-decoration-line", "padding-top",
  "padding-left", "margin-top", "margin-left", "width", "height", "translate", "rotate", "scale", "transform", "filter", "gap"];
const signatures = new Map();
const idle = window.requestIdleCallback ?? (work => setTimeout(work, 50));

/** Remembers how the cells of a mounted table look that are in sight; marks those that look another way than they did. */
function sign(name, theme, root, marks) {
  const moving = new Set();
  for (const animation of root.getAnimations()) {
    if (animation instanceof CSSTransition) animation.finish();
    else moving.add(animation.effect.target);
  }
  for (const cell of root.querySelectorAll("td")) {
    if (cell.closest("tbody").asleep) continue;
    const key = `${name}|${theme.place}|${cell.place}`;
    const parts = [];
    for (const element of cell.querySelectorAll(".mount *")) {
      if (moving.has(element)) continue;
      for (const pseudo of [null, "::before", "::after"]) {
        const style = getComputedStyle(element, pseudo);
        if (pseudo && style.content === "none") continue;
        for (const property of showing) parts.push(style.getPropertyValue(property));
      }
    }
    const look = parts.join("|");
    if (marks && signatures.has(key) && signatures.get(key) !== look && !changed.has(key)) {
      changed.set(key, "");
      mark(cell, "");
    }
    signatures.set(key, look);
  }
}

/** Whether `zoom` reaches lengths in `rem` (CSS Viewport 1, section 3): in WebKitGTK 2.50 it does not. */
const zoomsAll = (() => {
  const probe = document.createElement("div"), width = length => { probe.style.inlineSize = length; return probe.getBoundingClientRect().width; };
  probe.style.cssText = "position: absolute; zoom: .5";
  document.body.append(probe);
  const root = parseFloat(getComputedStyle(document.documentElement).fontSize);
  const same = Math.abs(width("10rem") - width(`${10 * root}px`)) < 1;
  probe.remove();
  return same;
})();

/** Where it does not, a row is drawn in full and made smaller as a picture, which leaves too much room below. */
const drawn = new ResizeObserver(entries => {
  for (const { target } of entries) {
    const isSmaller = getComputedStyle(target).transform !== "none";
    target.style.marginBlockEnd = isSmaller ? `${-.45 * target.offsetHeight}px` : "";
  }
});

function mountSheet(area) {
  const name = area.dataset.sheet;
  area.replaceChildren();
  area.style.minBlockSize = "";
  area.dataset.mounted = "";
  area.tables = [];
  for (const theme of themes(view)) {
    const root = ground(area, theme, name === "glance" ? "card" : "ground", [sheets.pictures],
      box => (name === "glance" ? fillCard(box, theme) : fillTable(box, name, theme)));
    for (const row of root.querySelectorAll(".item > .row")) {
      if (!zoomsAll) {
        row.classList.add("drawn");
        drawn.observe(row);
      }
      if (row.scrollWidth > row.clientWidth + 1) row.parentElement.classList.add("broad");
    }
    targets(root);
    if (name === "glance") continue;
    const table = [name, theme, root];
    area.tables.push(table);
    const own = root.querySelector("table");
    drawBroad(area, root, own, byName.get(name));
    fit([...own.querySelectorAll("tbody tr")]);
    part(own);
    for (const block of own.tBodies) {
      block.table = table;
      block.asleep = true;
      blocks.observe(block);
    }
  }
  if (window.stilkLive) idle(() => { for (const table of area.tables) sign(...table, false); });
}

/** Blocks that come into sight are fitted, and compared with what they looked like. */
const blocks = new IntersectionObserver(entries => {
  const woken = new Set(), fresh = [];
  for (const { target: block, isIntersecting } of entries) {
    block.asleep = !isIntersecting;
    // A short table is one block, which never sleeps.
    if (block.table[2].querySelector(".long")) block.style.contentVisibility = isIntersecting ? "visible" : "hidden";
    if (!isIntersecting) continue;
    woken.add(block.table);
    fresh.push(...[...block.rows].filter(row => !row.fitted));
  }
  if (fresh.length) {
    fit(fresh);
    for (const row of fresh) {
      const table = row.closest("table");
      [...row.children].forEach((cell, column) => {
        const { width } = cell.getBoundingClientRect();
        if (width > table.widths[column] + .5) widen(table, column, width);
      });
    }
  }
  if (window.stilkLive) idle(() => { for (const table of woken) sign(...table, true); });
}, { rootMargin: "150px 0px" });

/** A picture is as large as what it shows: an open panel must not lie over its neighbours. */
function fit(some) {
  // All that is asked for is asked before anything is set: one layout serves all rows.
  const found = [];
  for (const mount of some.flatMap(row => { row.fitted = true; return [...row.querySelectorAll("td > .mount")]; })) {
    const box = mount.getBoundingClientRect();
    let right = box.right, bottom = box.bottom;
    for (const inner of mount.querySelectorAll("*")) {
      const style = getComputedStyle(inner);
      if (style.position !== "absolute" || style.visibility === "hidden" || style.opacity === "0") continue;
      const own = inner.getBoundingClientRect();
      right = Math.max(right, own.right);
      bottom = Math.max(bottom, own.bottom);
    }
    found.push([mount, box, right, bottom]);
  }
  const scale = Number(view.zoom || 1);
  for (const [mount, box, right, bottom] of found) {
    if (bottom > box.bottom + 8) mount.style.minBlockSize = `${(bottom - box.top) / scale}px`;
    if (right > box.right + 8) mount.style.minInlineSize = `${(right - box.left) / scale}px`;
  }
}

/** Draws what WCAG 2.5.8 and 2.5.5 ask for around each target: full where it is large enough, in red where it is not. */
function targets(root) {
  const size = Number(view.boxes);
  if (!size) return;
  for (const mount of root.querySelectorAll(".mount")) {
    for (const inner of mount.querySelectorAll("button, a[href], input, select, textarea, summary, label")) {
      // A label around its field is the target; one beside it only helps.
      if (inner.localName === "label" ? !inner.querySelector("input, select, textarea") : inner.closest("label")) continue;
      const own = inner.getBoundingClientRect(), base = mount.getBoundingClientRect();
      if (!own.width) continue;
      const box = document.createElement("span");
      const enough = own.width >= size - .01 && own.height >= size - .01;
      box.className = `target${enough ? "" : " small"}`;
      const scale = Number(view.zoom || 1);
      Object.assign(box.style, {
        insetInlineStart: "auto", left: `${(own.left + own.width / 2 - base.left) / scale - size / 2}px`,
        top: `${(own.top + own.height / 2 - base.top) / scale - size / 2}px`, width: `${size}px`, height: `${size}px`,
      });
      mount.style.position = "relative";
      mount.append(box);
    }
  }
}

/** The place that the reader asked for, until the reader moves on. */
let held = null;

function holdPlace() {
  const isSticky = getComputedStyle(form).position === "sticky";
  document.documentElement.style.scrollPaddingBlockStart = `${(isSticky ? form.offsetHeight : 0) + 12}px`;
  held?.scrollIntoView();
}

const near = new IntersectionObserver(entries => {
  for (const entry of entries) {
    const area = entry.target;
    if (entry.isIntersecting && !("mounted" in area.dataset)) mountSheet(area);
    if (!entry.isIntersecting && "mounted" in area.dataset) {
      // Far away only its size is needed.
      area.style.minBlockSize = `${area.getBoundingClientRect().height}px`;
      area.replaceChildren();
      delete area.dataset.mounted;
    }
  }
  holdPlace();
}, { rootMargin: "800px 0px" });

const words = () => view.find.trim().toLowerCase();
const matches = name => name.toLowerCase().includes(words());

/** Shows what is asked for, and mounts anew what is mounted. */
function apply() {
  setModes();
  let shown = 0;
  for (const section of document.querySelectorAll("section.control")) {
    const control = byName.get(section.dataset.control);
    const failing = themes(view).some(theme => fails(control, theme)) || section.querySelector("ul.findings");
    const inRows = [...document.getElementById(`sheet-${control.name}`).content.querySelectorAll("th[scope=row]")]
      .some(row => row.textContent.toLowerCase().includes(words()));
    section.hidden = !(matches(control.name) || inRows) || (view.only !== "" && !failing);
    shown += section.hidden ? 0 : 1;
  }
  for (const token of document.querySelectorAll(".tokens li[data-name]")) token.hidden = !matches(token.dataset.name);
  for (const part of document.querySelectorAll(".tokens > section")) part.hidden = view.only !== "" || !part.querySelector("li:not([hidden])");
  document.querySelector("section.tokens").hidden = !document.querySelector(".tokens > section:not([hidden])");
  const output = form.querySelector("output");
  output.textContent = view.width ? `${view.width}px` : "as it is";
  document.getElementById("said").textContent = `${shown} of ${data.controls.length} controls shown`;
  for (const area of document.querySelectorAll("[data-sheet]")) {
    if ("mounted" in area.dataset) mountSheet(area);
    near.observe(area);
  }
  for (const area of document.querySelectorAll("[data-try]")) if (area.stand) area.stand();
}
