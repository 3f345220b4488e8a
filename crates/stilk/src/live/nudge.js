// Values are set by hand: a place is chosen in a picture, what paints it is listed, a value is pulled at. The pictures follow in each
// frame: two stylesheets with other values in that place say where it stands, and the page puts the value there itself. Nothing is
// written before somebody says so.
(() => {
  "use strict";
  const live = window.stilkLive;
  const nudge = live.nudge = { frames: [], changes: [] };

  /** Asks the program; what it refuses is thrown in its words. */
  async function ask(what, sent) {
    const answer = await fetch(`/nudge/${what}`, {
      method: "POST", body: JSON.stringify(sent), headers: { "content-type": "application/json", "x-stilk-secret": live.secret },
    });
    const text = await answer.text();
    let said;
    try { said = JSON.parse(text); } catch { said = { why: text.trim() }; }
    if (!answer.ok) throw new Error(said.why ?? "the program gave no answer");
    return said;
  }

  /** An element with attributes and children; functions among the attributes listen. */
  function make(name, attributes = {}, ...children) {
    const element = document.createElement(name);
    for (const [key, value] of Object.entries(attributes)) {
      if (typeof value === "function") element.addEventListener(key, value);
      else if (key === "style") element.style.cssText = value;
      else if (value === true) element.setAttribute(key, "");
      else if (value !== false && value !== null && value !== undefined) element.setAttribute(key, value);
    }
    element.append(...children.filter(child => child !== null && child !== undefined));
    return element;
  }

  const panel = make("aside", { id: "nudge", "aria-label": "Set values", hidden: true });
  const outline = make("div", { id: "nudge-outline" });
  const said = make("p", { class: "sr", role: "status" });
  document.body.append(panel, outline, said);
  const tell = words => { said.textContent = ""; requestAnimationFrame(() => { said.textContent = words; }); };

  const onOff = make("button", { type: "button", class: "nudge-switch", "aria-pressed": "false", click: () => (panel.hidden ? open() : close()) }, "Set values");
  document.querySelector("form.ways")?.append(onOff);

  // Which place is looked at.
  let at = null, painting = null, chosen = null;
  // What is set: places with their values; each step is kept, so that it can be taken back.
  let changes = [], past = [], future = [];
  // What was said of the last keeping, until something else is set.
  let notices = [];
  const same = (one, other) => JSON.stringify(one) === JSON.stringify(other);
  const sent = list => ({ changes: list.map(({ place, value, drawing }) => ({ place, value, drawing })) });
  const changeOf = place => changes.find(change => same(change.place, place));

  function remember() {
    past.push(changes.map(change => ({ ...change })));
    if (past.length > 200) past.shift();
    future = [];
  }

  function open() {
    panel.hidden = false;
    document.body.classList.add("nudging");
    onOff.setAttribute("aria-pressed", "true");
    holdPlace();
    if (!at) {
      const first = data.controls[0];
      at = { control: first?.name, cell: [0, 0], theme: themes(view)[0].place, element: 0 };
    }
    look();
  }

  function close() {
    panel.hidden = true;
    chosen = null;
    still(false);
    outline.style.display = "none";
    document.body.classList.remove("nudging");
    onOff.setAttribute("aria-pressed", "false");
    onOff.focus();
  }

  // Choosing by pointer: pictures are inert, so that what lies under the pointer is found by its box.
  function under(event) {
    const path = event.composedPath();
    const mountOf = place => place?.querySelectorAll?.(".mount") ?? [];
    const area = path.find(node => node.dataset?.sheet || node.dataset?.try);
    const host = path.find(node => node.classList?.contains("theme") && node.shadowRoot);
    if (!area || !host) return null;
    const shown = [...area.querySelectorAll(".theme")];
    const theme = themes(view)[shown.indexOf(host)]?.place ?? 0;
    const isCell = node => node.localName === "td" || ["item", "stage", "broad-pictures"].some(name => node.classList?.contains(name));
    const cell = path.find(isCell);
    // Pictures stand beside each other, those as wide as the sheet below each other.
    const isBelow = cell?.classList.contains("broad-pictures");
    const isOver = one => {
      const box = one.getBoundingClientRect();
      return isBelow ? event.clientY >= box.top - 4 && event.clientY <= box.bottom + 4 : event.clientX >= box.left - 4 && event.clientX <= box.right + 4;
    };
    const mount = [...mountOf(cell)].find(isOver) ?? (isBelow ? null : mountOf(cell)[0]);
    const control = mount?.querySelector("[data-subject]") ?? mount?.firstElementChild;
    if (!control) return null;
    const all = [control, ...control.querySelectorAll("*")];
    const holds = element => {
      const box = element.getBoundingClientRect();
      return box.width && box.height && event.clientX >= box.left && event.clientX <= box.right && event.clientY >= box.top && event.clientY <= box.bottom;
    };
    // Of what is drawn in a picture the picture is chosen.
    const whole = all.filter(element => !element.closest("svg") || element.localName === "svg");
    const found = whole.filter(holds).at(-1) ?? control;
    const place = { theme, element: all.indexOf(found) };
    if (area.dataset.try) {
      const known = byName.get(area.dataset.try);
      const values = [...area.querySelectorAll(".choices select")].map(select => select.value);
      const host = known.hosts.length > 1 ? Number(values.shift()) : 0;
      return [found, { ...place, control: area.dataset.try, host, options: values.filter(Boolean) }];
    }
    if (cell.dataset?.name) return [found, { ...place, control: cell.dataset.name, cell: [0, 0] }];
    const rows = document.getElementById(`sheet-${area.dataset.sheet}`).content;
    const columns = rows.querySelectorAll("thead th").length - 1;
    const at = isBelow ? mount.place : cell.place;
    return [found, { ...place, control: area.dataset.sheet, cell: [Math.floor(at / columns), at % columns] }];
  }

  function show(element) {
    const box = element?.getBoundingClientRect();
    outline.style.display = box?.width ? "block" : "none";
    if (box?.width) Object.assign(outline.style, { left: `${box.left - 3}px`, top: `${box.top - 3}px`, width: `${box.width + 6}px`, height: `${box.height + 6}px` });
  }

  document.addEventListener("pointermove", event => { if (!panel.hidden && !panel.contains(event.target)) show(under(event)?.[0]); }, { passive: true });
  addEventListener("scroll", () => show(null), { passive: true });
  document.addEventListener("click", event => {
    if (panel.hidden || panel.contains(event.target)) return;
    const found = under(event);
    if (!found) return;
    event.preventDefault();
    event.stopPropagation();
    at = found[1];
    look();
  }, { capture: true });

  /** Asks what paints the place, and lists it. */
  async function look() {
    chosen = null;
    try {
      painting = await ask("painting", at);
    } catch (why) {
      painting = null;
      draw();
      return fail(why);
    }
    draw();
    nudge.looked = (nudge.looked ?? 0) + 1;
    tell(`${painting.name} of ${painting.case}: ${painting.values.length} values`);
  }

  function fail(why) {
    panel.querySelector(".failed")?.remove();
    panel.querySelector(".where")?.after(make("p", { class: "failed wrong", role: "alert" }, String(why.message ?? why)));
  }

  function draw() {
    const scrolled = panel.scrollTop;
    panel.replaceChildren(
      make("h2", { tabindex: "-1" }, painting ? `${painting.name === "the control" ? at.control : painting.name}` : "Set values"),
      make("button", { type: "button", class: "close", "aria-label": "Close", click: close }, "×"),
      painting ? make("p", { class: "note" }, painting.case) : make("p", { class: "note" }, "Choose something in a picture."),
      places(),
      painting ? list() : "",
      make("div", { class: "outcome", "aria-live": "polite" }),
      made(),
    );
    panel.scrollTop = scrolled;
  }

  /** The place, by keyboard: control, picture, theme, element. */
  function places() {
    const control = byName.get(at?.control) ?? data.controls[0];
    if (!control) return "";
    const pick = (label, options, value, change) => {
      const select = make("select", { change: event => { change(event.target.value); look(); } });
      options.forEach(([key, text]) => select.append(new Option(text, key, false, String(key) === String(value))));
      return make("label", {}, make("span", {}, label), select);
    };
    const table = document.getElementById(`sheet-${control.name}`).content;
    const rows = [...table.querySelectorAll("tbody th")].map((cell, index) => [index, cell.textContent]);
    const columns = [...table.querySelectorAll("thead th")].slice(1).map((cell, index) => [index, cell.textContent]);
    const parts = (painting?.elements ?? []).map(one => [`${one.element}::${one.pseudo ?? ""}`, one.name]);
    return make("div", { class: "where" },
      pick("control", data.controls.map(one => [one.name, one.name]), control.name, name => { at = { control: name, cell: [0, 0], theme: at.theme, element: 0 }; }),
      pick("theme", data.themes.map((name, index) => [index, name]), at.theme, theme => { at = { ...at, theme: Number(theme) }; }),
      at.cell ? pick("variant", rows, at.cell[0], row => { at = { ...at, cell: [Number(row), at.cell[1]], element: 0, pseudo: null }; }) : "",
      at.cell ? pick("state", columns, at.cell[1], column => { at = { ...at, cell: [at.cell[0], Number(column)], element: 0, pseudo: null }; }) : "",
      pick("part", parts, `${at.element}::${at.pseudo ?? ""}`, key => {
        const [element, pseudo] = key.split("::");
        at = { ...at, element: Number(element), pseudo: pseudo || null };
      }));
  }

  const chip = value => make("span", { class: "chip", style: `--chip: ${value}` });
  const isColor = value => CSS.supports("color", value) && !/^(inherit|initial|unset|revert|revert-layer|currentcolor|transparent)$/i.test(value);
  const grouped = number => Number(number).toLocaleString("en-US");

  /** Every value that a declaration gives the element. */
  function list() {
    const all = make("ul", { class: "values" });
    painting.values.forEach((value, index) => {
      const id = `nudge-choices-${index}`;
      const button = make("button", { type: "button", class: "value", "aria-expanded": "false", "aria-controls": id },
        make("span", {}, value.property), make("span", {}, isColor(value.value) ? chip(value.value) : "", value.value),
        make("span", { class: "at" }, value.at ?? "what is reset, or the browser's own"));
      const choices = make("div", { class: "spots", id, hidden: true });
      button.addEventListener("click", () => {
        const isOpen = button.getAttribute("aria-expanded") === "true";
        for (const other of all.querySelectorAll("[aria-expanded=true]")) {
          other.setAttribute("aria-expanded", "false");
          other.nextElementSibling.hidden = true;
        }
        button.setAttribute("aria-expanded", String(!isOpen));
        choices.hidden = isOpen;
        if (!isOpen) offer(choices, value, index);
      });
      all.append(make("li", {}, button, choices));
    });
    return all;
  }

  /** The places where a value may be put, with what each reaches. */
  function offer(box, value, index) {
    const editor = make("div", { class: "editor" }), chosenWords = make("p", { class: "chosen" });
    const reachOf = choice => {
      const most = choice.is_exact ? "" : "at least ";
      const controls = choice.controls.length > 4 ? `${choice.controls.slice(0, 4).join(", ")} and ${choice.controls.length - 4} more` : choice.controls.join(", ");
      const reach = choice.controls.length ? `${most}${grouped(choice.cases)} cases in ${choice.controls.length === 1 ? controls : `${choice.controls.length} controls: ${controls}`}` : "reaches nothing";
      return make("span", { class: "reach" }, reach, choice.at ? ` · ${choice.at}` : "");
    };
    const take = choice => {
      chosenWords.replaceChildren(make("strong", {}, `Sets ${choice.words}`), make("br"), reachOf(choice));
      return edit(editor, choice);
    };
    const items = value.choices.map((choice, at) => {
      const input = make("input", { type: "radio", name: `nudge-${index}`, checked: at === 0, change: () => take(choice) });
      return make("label", { class: "choice" }, input, make("span", {}, choice.words), reachOf(choice));
    });
    const elsewhere = items.length > 1 ? make("details", {}, make("summary", {}, `Set it somewhere else (${items.length - 1})`),
      make("div", { role: "radiogroup", "aria-label": `Where ${value.property} is set` }, ...items)) : "";
    box.replaceChildren(chosenWords, editor, elsewhere);
    if (value.choices.length) take(value.choices[0]);
    else editor.replaceChildren(make("p", { class: "note" }, "Nothing of it can be set from here."));
  }

  // Where a value stands in the stylesheets of the page.
  const MARKS = {
    color: ["oklch(0.4321 0.0123 123.4)", "oklch(0.5432 0.0234 234.5)"], length: ["7.6543px", "8.7654px"], number: ["0.6543", "0.7654"],
    time: ["6543ms", "7654ms"], easing: ["cubic-bezier(0.123, 0.234, 0.345, 0.456)", "cubic-bezier(0.234, 0.345, 0.456, 0.567)"],
    font: ["\"Mark One\"", "\"Mark Two\""], shadow: ["7.6543px 8.7654px 9.8765px 1.2345px oklch(0.4321 0.0123 123.4)", "7.6544px 8.7655px 9.8766px 1.2346px oklch(0.5432 0.0234 234.5)"],
  };
  let spots = null, wanted = null, drawing = false, ready = null;

  /** Puts stylesheets on the page; gives those of the pictures that stay as they are. */
  function wear([pictures, trial]) {
    for (const [name, text] of [["pictures", pictures], ["trial", trial]]) {
      sheets[name].replaceSync(text);
      setMotion(sheets[name]);
    }
  }

  /** Walks two lists of rules of one form. */
  function* pairs(one, other, path = []) {
    if (one.length !== other.length) throw new Error("another form");
    for (let i = 0; i < one.length; i++) {
      yield [one[i], other[i], [...path, i]];
      if (one[i].cssRules) yield* pairs(one[i].cssRules, other[i].cssRules, [...path, i]);
    }
  }

  /** The declarations in which two stylesheets differ: where, and the text around the mark. */
  function differing(texts, marks) {
    const [first, second] = texts.map(text => { const sheet = new CSSStyleSheet(); sheet.replaceSync(text); return sheet; });
    const found = [];
    for (const [one, other, path] of pairs(first.cssRules, second.cssRules)) {
      if (!one.style) continue;
      for (const property of new Set([...one.style, ...other.style])) {
        const [a, b] = [one, other].map(rule => rule.style.getPropertyValue(property));
        if (a === b) continue;
        if (a.split(marks[0]).join(marks[1]) !== b) throw new Error("not as it was written");
        found.push({ path, property, parts: a.split(marks[0]), priority: one.style.getPropertyPriority(property) });
      }
    }
    return found;
  }

  const ruleAt = (sheet, path) => path.reduce((rules, index, depth) => (depth ? rules.cssRules[index] : rules[index]), sheet.cssRules);

  /** Finds out where a value of a choice stands; where nobody can tell, each change asks for whole stylesheets. */
  async function mark(choice) {
    const others = changes.filter(change => !same(change.place, choice.place));
    let marks = MARKS[choice.kind];
    const unit = measure(choice.value)?.unit;
    if (choice.kind === "length" && unit) marks = [`7.6543${unit}`, `8.7654${unit}`];
    if (choice.kind === "keyword") marks = choice.keywords.length > 1 ? choice.keywords.slice(0, 2) : null;
    if (!marks) return null;
    const texts = await Promise.all(marks.map(value => ask("sheets", sent([...others, { place: choice.place, value, drawing: painting.drawing }]))));
    try {
      // A file has a unit and a notation of its own.
      const as = texts.map(text => text.value);
      const found = ["pictures", "trial"].flatMap((name, index) =>
        differing(texts.map(text => text.styles[index]), as).map(spot => ({ ...spot, name })));
      return { texts: texts[0].styles, found };
    } catch {
      return null;
    }
  }

  /** Paints a value in the next frame. */
  function paint(value) {
    wanted = value;
    if (drawing) return;
    drawing = true;
    requestAnimationFrame(async () => {
      const started = performance.now();
      const value = wanted;
      if (spots) {
        const css = resolved(value);
        for (const { rule, property, parts, priority } of spots) rule.style.setProperty(property, parts.join(css), priority);
      } else if (ready === null) {
        try { wear((await ask("sheets", sent(changes))).styles); } catch (why) { wrong(why); }
      }
      nudge.frames.push(performance.now() - started);
      drawing = false;
      if (wanted !== value) paint(wanted);
    });
  }

  /** A reference as what it stands for here. */
  function resolved(value) {
    const path = /^\{(.+)\}$/.exec(value.trim())?.[1];
    return path ? painting?.tokens.find(token => token.path === path)?.value ?? value : value;
  }

  function wrong(why) {
    const place = panel.querySelector(".editor .refusal");
    if (place) place.textContent = why ? String(why.message ?? why) : "";
  }

  let rest = 0, run = 0, listing = 0, judging = false;
  /** Findings and figures, once the value rests. */
  function settle() {
    clearTimeout(rest);
    // What is pulled at needs the machine for itself: nobody waits for what was said of the value before.
    if (judging) {
      judging = false;
      run++;
      ask("stop", {}).catch(() => {});
    }
    rest = setTimeout(outcome, 90);
  }

  async function outcome() {
    const mine = ++run;
    judging = true;
    thaw();
    const box = panel.querySelector(".outcome");
    if (!changes.length) {
      box?.replaceChildren();
      figures(null);
      return;
    }
    const started = performance.now();
    let found;
    try {
      const shown = [...document.querySelectorAll("[data-sheet][data-mounted]")].map(area => area.dataset.sheet).filter(name => byName.has(name));
      const news = await ask("figures", { ...sent(changes), shown });
      if (mine !== run) return;
      nudge.figured = performance.now() - started;
      figures(news);
      found = await ask("outcome", sent(changes));
    } catch (why) {
      if (mine === run) wrong(why);
      return;
    }
    if (mine !== run || found.stale) return;
    judging = false;
    wrong(null);
    nudge.settled = performance.now() - started;
    nudge.outcome = found;
    const findings = (title, kind, list) => list.length ? [
      make("h3", {}, `${title} (${list.length})`),
      make("ul", { class: `findings ${kind}` }, ...list.slice(0, 8).map(one => make("li", {},
        make("strong", {}, one.message.replaceAll("`", "")),
        make("p", { class: "note" }, `${one.id}${one.cases ? ` · ${grouped(one.cases)} cases` : ""}${one.worst ? ` · ${one.worst}: ${one.figures}` : ""}`)))),
      list.length > 8 ? make("p", { class: "note" }, `and ${list.length - 8} more`) : "",
    ] : [];
    const now = panel.querySelector(".outcome");
    now?.replaceChildren(...findings("Would fail", "come", found.come), ...findings("Cleared", "gone", found.gone),
      ...(found.come.length || found.gone.length ? [] : [make("p", { class: "note" }, "No finding comes or goes.")]));
    offerSums(found.come);
    tell(`${found.come.length} would fail, ${found.gone.length} cleared`);
  }

  /** Sums that geometry asks for where this length is set: the outer corner less the gap, the track less the thumb. */
  function offerSums(come) {
    const box = panel.querySelector(".editor .sums");
    if (!box || !chosen) return;
    const { place } = chosen.choice;
    const takes = ["declaration", "own"].includes(place.kind);
    const asked = come.filter(one => takes && one.id.startsWith("geometry/") && one.worst?.startsWith(at.control));
    const sums = asked.map(one => [/`((?:calc\(|\{)[^`]+)`(?:: (.+))?/.exec(one.mend ?? ""), one]).filter(([sum]) => sum);
    box.replaceChildren(...sums.slice(0, 4).map(([[, css, why], one]) =>
      make("button", { type: "button", title: one.message.replaceAll("`", ""), click: () => { set(css, true); refresh(); } }, `${css}${why ? `: ${why}` : ""}`)));
  }

  // Figures of the pictures as they would be; those that were are kept.
  const kept = new Map();
  function figures(found) {
    const news = new Map();
    for (const { name, figures } of found?.figures ?? []) {
      const own = found.reasons.map(reason => {
        if (!data.reasons.includes(reason)) data.reasons.push(reason);
        return data.reasons.indexOf(reason);
      });
      news.set(name, figures.map(text => text.split("|").map(code => (code.startsWith("?") ? `?${own[Number(code.slice(1))]}` : code)).join("|")));
    }
    for (const [name, was] of kept) {
      if (!news.has(name)) news.set(name, was);
    }
    for (const [name, texts] of news) {
      const control = byName.get(name);
      if (!control) continue;
      if (!kept.has(name)) kept.set(name, control.figures);
      control.figures = texts;
      const was = kept.get(name);
      if (same(was, texts)) kept.delete(name);
      for (const [of, theme, root] of document.querySelector(`[data-sheet="${CSS.escape(name)}"]`)?.tables ?? []) {
        if (of !== name) continue;
        const [codes, before] = [texts, was].map(list => list[theme.place].split("|"));
        for (const cell of root.querySelectorAll("td")) {
          const code = codes[cell.place], old = before[cell.place];
          cell.classList.toggle("changed", code !== old);
          if (cell.shownCode === code) continue;
          cell.shownCode = code;
          cell.querySelector(".figure")?.remove();
          figure(cell, code);
          if (code !== old) {
            const now = cell.querySelector(".figure");
            now.textContent = `${figureText(old)} → ${now.textContent}`;
          }
        }
      }
    }
  }
  const figureText = code => { const cell = document.createElement("td"); figure(cell, code); return cell.textContent.replace("✗ ", ""); };

  /** Sets a value of the chosen place; `step` begins a new one to go back to. */
  function set(value, step) {
    const { choice } = chosen;
    if (step) {
      remember();
      notices = [];
      wait();
    }
    const known = changeOf(choice.place);
    if (known) Object.assign(known, { value, drawing: painting.drawing });
    else changes.push({ place: choice.place, value, drawing: painting.drawing, words: choice.words, was: choice.written || choice.value, at: choice.at });
    // What is as it was is no change.
    if (value === (choice.written || choice.value)) changes = changes.filter(change => !same(change.place, choice.place));
    nudge.changes = changes;
    const text = panel.querySelector(".editor .as-text");
    if (text && document.activeElement !== text) text.value = value;
    paint(value);
    settle();
    // While it is pulled at the list waits.
    clearTimeout(listing);
    listing = setTimeout(redrawMade, step ? 0 : 60);
  }

  /** Paints all that is set from the beginning: after a step back. */
  async function repaintAll() {
    nudge.changes = changes;
    redrawMade();
    try {
      wear((await ask("sheets", sent(changes))).styles);
      if (chosen) await begin(chosen.choice);
    } catch (why) { wrong(why); }
    settle();
  }

  function undo() {
    if (!past.length) return;
    future.push(changes);
    changes = past.pop();
    tell("taken back");
    repaintAll().then(refresh);
  }

  function redo() {
    if (!future.length) return;
    past.push(changes);
    changes = future.pop();
    tell("made again");
    repaintAll().then(refresh);
  }

  /** The editor shows what is set now. */
  function refresh() {
    const box = panel.querySelector(".editor");
    if (chosen && box?.isConnected) draw_editor(box, chosen.choice);
  }

  document.addEventListener("keydown", event => {
    if (panel.hidden) return;
    if (event.key === "Escape") {
      event.preventDefault();
      if (chosen && changeOf(chosen.choice.place) && !same(chosen.began, changes)) {
        past.push(changes);
        changes = chosen.began.map(change => ({ ...change }));
        tell("put back");
        repaintAll().then(refresh);
      } else {
        close();
      }
    }
    const isText = event.target.closest?.("input:not([type=range], [type=radio], [type=checkbox])");
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z" && !isText) {
      event.preventDefault();
      if (event.shiftKey) redo(); else undo();
    }
  });

  /** Nothing glides while a value is pulled at: what is set shows at once, and a frame has nothing to animate. */
  function still(isStill) {
    for (const { shadowRoot } of document.querySelectorAll(".theme")) {
      if (!shadowRoot) continue;
      const others = shadowRoot.adoptedStyleSheets.filter(sheet => sheet !== sheets.still);
      shadowRoot.adoptedStyleSheets = isStill ? [...others, sheets.still] : others;
    }
  }

  // Pictures that are out of sight wait while a value is pulled at: a frame styles those that are looked at.
  let waiting = [];
  function wait() {
    thaw();
    const right = innerWidth - (panel.getBoundingClientRect().width < innerWidth ? panel.getBoundingClientRect().width : 0);
    const found = [];
    for (const { shadowRoot } of document.querySelectorAll("[data-sheet] > .theme")) {
      for (const mount of shadowRoot?.querySelectorAll("td > .mount") ?? []) {
        if (mount.closest("tbody")?.asleep) continue;
        const box = mount.getBoundingClientRect();
        if (box.bottom < 0 || box.top > innerHeight || box.right < 0 || box.left > right) found.push([mount, box]);
      }
    }
    const scale = Number(view.zoom || 1);
    for (const [mount, { width, height }] of found) {
      mount.style.containIntrinsicSize = `${width / scale}px ${height / scale}px`;
      mount.style.contentVisibility = "hidden";
    }
    waiting = found.map(([mount]) => mount);
  }
  function thaw() {
    for (const mount of waiting) mount.style.contentVisibility = mount.style.containIntrinsicSize = "";
    waiting = [];
  }
  addEventListener("scroll", thaw, { passive: true, capture: true });

  /** Finds the spots of a choice and wears the sheets in which they are. */
  async function begin(choice) {
    spots = null;
    still(true);
    ready = mark(choice);
    const found = await ready;
    ready = null;
    if (!found || chosen?.choice !== choice) return;
    wear(found.texts);
    spots = found.found.map(spot => ({ ...spot, rule: ruleAt(sheets[spot.name], spot.path) }));
    nudge.spots = spots.length;
    const css = resolved(changeOf(choice.place)?.value ?? choice.value);
    for (const { rule, property, parts, priority } of spots) rule.style.setProperty(property, parts.join(css), priority);
  }

  async function edit(box, choice) {
    chosen = { choice, began: changes.map(change => ({ ...change })) };
    draw_editor(box, choice);
    try { await begin(choice); } catch (why) { wrong(why); ready = null; }
    // What was set while its place was looked for, in vain, is painted by whole stylesheets.
    const change = changeOf(choice.place);
    if (!spots && change && chosen?.choice === choice) paint(change.value);
    nudge.ready = true;
  }

  function draw_editor(box, choice) {
    const now = changeOf(choice.place)?.value ?? choice.value;
    const value = resolved(now);
    const error = make("p", { class: "wrong refusal", role: "alert" });
    const build = editors[choice.kind] ?? editors.text;
    const text = make("input", { type: "text", class: "as-text", "aria-label": "The value, in any notation", value: now, spellcheck: "false",
      change: event => { const typed = event.target.value.trim(); if (typed) { set(typed, true); refresh(); } } });
    const hold = make("button", { type: "button", "aria-pressed": String(chosen.held !== undefined), click: () => {
      if (chosen.held === undefined) chosen.held = changeOf(choice.place)?.value ?? choice.value;
      else chosen.held = undefined;
      draw_editor(box, choice);
    } }, chosen.held === undefined ? "Hold this value" : "Let the held one go");
    const swap = chosen.held === undefined ? "" : make("button", { type: "button", click: () => {
      const other = chosen.held;
      chosen.held = changeOf(choice.place)?.value ?? choice.value;
      set(other, true);
      draw_editor(box, choice);
    } }, "Change sides: ", isColor(resolved(chosen.held)) ? chip(resolved(chosen.held)) : "", chosen.held);
    const sums = make("div", { class: "near sums", role: "group", "aria-label": "sums that geometry asks for" });
    box.replaceChildren(...[build(choice, value), sums, make("label", {}, make("span", {}, "as text"), text), make("div", { class: "bar" }, hold, swap), error].flat().filter(Boolean));
  }

  /** A number that is pulled at: by its name with the pointer, by its slider, by keys. */
  function pull(name, { value, min, max, step, hard = false }, input, unit = "") {
    const digits = Math.max(0, -Math.floor(Math.log10(step)));
    const clean = number => String(Number(number.toFixed(digits + 1)));
    const slider = make("input", { type: "range", min, max, step, "aria-label": name });
    slider.value = value;
    const field = make("input", { type: "number", step, "aria-label": `${name}${unit ? ` in ${unit}` : ""}` });
    if (hard) { field.min = min; field.max = max; }
    field.value = clean(value);
    const label = make("span", { class: "name", title: "pull to the side" }, `${name}${unit ? ` ${unit}` : ""}`);
    let begun = false;
    const go = (number, isOver) => {
      if (!Number.isFinite(number)) return;
      const within = hard ? Math.min(max, Math.max(min, number)) : number;
      slider.value = within;
      if (document.activeElement !== field) field.value = clean(within);
      input(within, !begun);
      begun = !isOver;
    };
    slider.addEventListener("input", () => go(Number(slider.value), false));
    slider.addEventListener("change", () => { begun = false; });
    field.addEventListener("input", () => { if (field.value !== "") go(Number(field.value), false); });
    field.addEventListener("change", () => { begun = false; });
    field.addEventListener("keydown", event => {
      if (!["ArrowUp", "ArrowDown"].includes(event.key) || !(event.shiftKey || event.altKey)) return;
      event.preventDefault();
      const by = step * (event.shiftKey ? 10 : .1) * (event.key === "ArrowUp" ? 1 : -1);
      field.value = clean(Number(field.value) + by);
      go(Number(field.value), false);
    });
    label.addEventListener("pointerdown", event => {
      const from = Number(field.value), start = event.clientX;
      label.setPointerCapture(event.pointerId);
      const move = moved => go(from + Math.round((moved.clientX - start) / 2) * step, false);
      label.addEventListener("pointermove", move);
      label.addEventListener("pointerup", () => { begun = false; label.removeEventListener("pointermove", move); }, { once: true });
    });
    const row = make("div", { class: "pull" }, label, slider, field);
    row.set = number => { slider.value = number; field.value = clean(number); };
    return row;
  }

  // Colours: OKLab by Björn Ottosson's matrices, as CSS Color 4, section 10.4 has them.
  const cube = x => x * x * x;
  function oklchToLinear(l, c, h) {
    const [a, b] = [c * Math.cos(h * Math.PI / 180), c * Math.sin(h * Math.PI / 180)];
    const L = cube(l + .3963377774 * a + .2158037573 * b), M = cube(l - .1055613458 * a - .0638541728 * b), S = cube(l - .0894841775 * a - 1.291485548 * b);
    return [4.0767416621 * L - 3.3077115913 * M + .2309699292 * S, -1.2684380046 * L + 2.6097574011 * M - .3413193965 * S, -.0041960863 * L - .7034186147 * M + 1.707614701 * S];
  }
  const toP3 = ([r, g, b]) => [.8224619688 * r + .1775380312 * g, .0331941989 * r + .9668058011 * g, .0170826307 * r + .0723974407 * g + .9105199286 * b];
  const encode = x => (x <= .0031308 ? 12.92 * x : 1.055 * x ** (1 / 2.4) - .055);
  const decode = x => (x <= .04045 ? x / 12.92 : ((x + .055) / 1.055) ** 2.4);
  const fits = linear => linear.map(x => (x < 0 ? -encode(-x) : encode(x))).every(x => x >= -1e-4 && x <= 1.0001);
  /** The most chroma at a lightness and hue that a screen shows. */
  function most(l, h, isP3) {
    let low = 0, high = .5;
    for (let i = 0; i < 20; i++) {
      const middle = (low + high) / 2, linear = oklchToLinear(l, middle, h);
      if (fits(isP3 ? toP3(linear) : linear)) low = middle; else high = middle;
    }
    return low;
  }
  /** As mends do: with as much chroma as sRGB holds, in whole bytes. */
  function pixel(l, c, h) {
    const within = fits(oklchToLinear(l, c, h)) ? c : Math.min(c, most(l, h, false));
    return oklchToLinear(l, within, h).map(x => Math.round(Math.min(1, Math.max(0, encode(Math.max(0, x)))) * 255) / 255);
  }
  const luminance = rgb => { const [r, g, b] = rgb.map(decode); return .2126 * r + .7152 * g + .0722 * b; };
  const contrast = (one, other) => { const [a, b] = [luminance(one), luminance(other)]; return (Math.max(a, b) + .05) / (Math.min(a, b) + .05); };
  const probe = make("span", { style: "display: none" });
  document.body.append(probe);
  /** Lightness, chroma, hue and alpha of a colour in any notation. */
  function oklch(css) {
    probe.style.color = "";
    probe.style.color = `oklch(from ${css} l c h / alpha)`;
    const found = /^oklch\(([^)]+)\)/.exec(getComputedStyle(probe).color)?.[1].replace("/", " ").split(/\s+/).filter(Boolean);
    if (!found || !probe.style.color) return null;
    const [l, c, h, alpha = 1] = found.map(part => (part === "none" ? 0 : Number(part)));
    return { l, c, h, alpha };
  }
  const round = (x, digits) => String(Number(x.toFixed(digits)));
  const written = ({ l, c, h, alpha }) => `oklch(${round(l, 4)} ${round(c, 4)} ${round(c < .0005 ? 0 : h, 2)}${alpha < 1 ? ` / ${round(alpha, 3)}` : ""})`;
  const apart = (one, other) => {
    const lab = ({ l, c, h }) => [l, c * Math.cos(h * Math.PI / 180), c * Math.sin(h * Math.PI / 180)];
    const [a, b] = [lab(one), lab(other)];
    return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
  };

  function colorEditor(value, change, tokenPath) {
    const now = oklch(value) ?? { l: .5, c: .1, h: 230, alpha: 1 };
    const strip = make("div", { class: "strip", "aria-hidden": "true" }), passes = make("div", { class: "passes", role: "img", hidden: true });
    const chroma = make("div", { class: "strip", "aria-hidden": "true" });
    const note = make("p", { class: "note" });
    let meets = null, passing = null, waits = false;
    // Once a frame, however many events there are in it.
    const shown = () => {
      if (waits) return;
      waits = true;
      requestAnimationFrame(() => { waits = false; showNow(); });
    };
    const showNow = () => {
      strip.style.background = `linear-gradient(to right, ${Array.from({ length: 11 }, (_, i) => `oklch(${i / 10} ${now.c} ${now.h})`).join(", ")})`;
      chroma.style.background = `linear-gradient(to right, ${Array.from({ length: 9 }, (_, i) => `oklch(${now.l} ${i * .05} ${now.h})`).join(", ")})`;
      const [own, p3] = [most(now.l, now.h, false), most(now.l, now.h, true)];
      chroma.replaceChildren(make("i", { class: "edge", title: "what sRGB shows", style: `left: ${Math.min(100, own / .4 * 100)}%` }), make("i", { class: "edge p3", title: "what Display P3 shows", style: `left: ${Math.min(100, p3 / .4 * 100)}%` }));
      const edge = now.c > p3 + .0005 ? "beyond Display P3" : now.c > own + .0005 ? "beyond sRGB, in Display P3" : "in sRGB";
      let words = edge;
      if (meets) {
        const ok = l => { const own = pixel(l, now.c, now.h); return meets.every(({ with: other, needed }) => contrast(own, other) >= needed * 1.0005); };
        // Which lightnesses pass depends on all but the lightness.
        if (passing?.c !== now.c || passing.h !== now.h) {
          const runs = [];
          for (let i = 0; i <= 200; i++) {
            const last = runs.at(-1);
            if (!ok(i / 200)) continue;
            if (last?.[1] === i - 1) last[1] = i; else runs.push([i, i]);
          }
          passing = { c: now.c, h: now.h, runs };
          passes.hidden = false;
          passes.replaceChildren(...runs.map(([from, to]) => make("i", { style: `left: ${from / 2}%; width: ${Math.max(.5, (to - from) / 2)}%` })));
        }
        const { runs } = passing;
        const ranges = runs.map(([from, to]) => `${from / 200} to ${to / 200}`).join(" and ");
        passes.setAttribute("aria-label", runs.length ? `lightnesses that pass: ${ranges}` : "no lightness passes");
        const here = ok(now.l);
        words += ` · ${here ? "passes with" : "does not pass with"} ${meets.length === 1 ? "the colour" : `all ${meets.length} colours`} it meets${runs.length ? `; lightness ${ranges} does` : "; no lightness does"}`;
        note.classList.toggle("wrong", !here);
        nudge.passing = { here, ranges };
      }
      note.textContent = words;
    };
    const go = step => { shown(); change(written(now), step); };
    const rows = [
      pull("lightness", { value: now.l, min: 0, max: 1, step: .005, hard: true }, (x, step) => { now.l = x; go(step); }),
      make("div", { class: "pull" }, make("span"), strip, make("span"), make("span"), passes, make("span")),
      pull("chroma", { value: now.c, min: 0, max: .4, step: .005, hard: true }, (x, step) => { now.c = x; go(step); }),
      make("div", { class: "pull" }, make("span"), chroma, make("span")),
      pull("hue", { value: now.h, min: 0, max: 360, step: 1, hard: true }, (x, step) => { now.h = x % 360; go(step); }),
      pull("alpha", { value: now.alpha, min: 0, max: 1, step: .01, hard: true }, (x, step) => { now.alpha = x; go(step); }),
      note,
    ];
    showNow();
    if (tokenPath) ask("meets", { path: tokenPath, theme: at.theme }).then(found => { meets = found.meets.length ? found.meets : null; nudge.meets = found.meets.length; shown(); }, () => {});
    const all = painting.tokens.filter(token => token.type === "color" && !token.member && token.path !== tokenPath).map(token => [token, oklch(token.value)]).filter(([, color]) => color);
    all.sort((a, b) => apart(a[1], now) - apart(b[1], now));
    rows.push(make("div", { class: "near", role: "group", "aria-label": "the nearest tokens" }, ...all.slice(0, 6).map(([token]) =>
      make("button", { type: "button", title: token.value, click: () => { change(`{${token.path}}`, true); refresh(); } }, chip(token.value), token.path))));
    return rows;
  }

  const measure = value => { const found = /^(-?[\d.]+(?:e-?\d+)?)([a-z%]*)$/i.exec(value.trim()); return found && { number: Number(found[1]), unit: found[2] }; };

  function measured(choice, value, type) {
    const found = measure(value);
    if (!found) return [];
    const { number, unit } = found;
    const step = { rem: .0625, em: .0625, ms: 10, s: .01, "": number > 10 ? 10 : .05, "%": 1 }[unit] ?? 1;
    const max = Math.max(number * 2, { rem: 3, em: 3, ms: 600, s: .6, "": number > 10 ? 1000 : 2, "%": 100 }[unit] ?? 48);
    const rows = [pull(choice.kind === "time" ? "time" : choice.kind === "number" ? "number" : "length",
      { value: number, min: Math.min(0, number * 2), max, step }, (x, begins) => set(`${round(x, 4)}${unit}`, begins), unit)];
    const scale = painting.tokens.filter(token => token.type === type && !token.member && measure(token.value)?.unit === unit && token.path !== choice.place.path);
    scale.sort((a, b) => Math.abs(measure(a.value).number - number) - Math.abs(measure(b.value).number - number));
    rows.push(make("div", { class: "near", role: "group", "aria-label": "steps of the scale" }, ...scale.slice(0, 8).sort((a, b) => measure(a.value).number - measure(b.value).number).map(token =>
      make("button", { type: "button", title: token.value, click: () => { set(`{${token.path}}`, true); refresh(); } }, `${token.path} ${token.value}`))));
    return rows;
  }

  const KNOWN = { linear: [0, 0, 1, 1], ease: [.25, .1, .25, 1], "ease-in": [.42, 0, 1, 1], "ease-out": [0, 0, .58, 1], "ease-in-out": [.42, 0, .58, 1] };

  function curveEditor(value) {
    const numbers = KNOWN[value] ? [...KNOWN[value]] : /cubic-bezier\(([^)]+)\)/.exec(value)?.[1].split(",").map(Number);
    if (!numbers) return [];
    const space = "http://www.w3.org/2000/svg";
    const svg = document.createElementNS(space, "svg");
    svg.setAttribute("viewBox", "-10 -60 120 220");
    svg.setAttribute("class", "curve");
    svg.setAttribute("role", "img");
    svg.setAttribute("aria-label", "the curve; its handles can be pulled, and set by the fields below");
    const path = document.createElementNS(space, "path"), lines = document.createElementNS(space, "path");
    for (const [element, width, colour] of [[path, 3, "var(--ink)"], [lines, 1, "var(--faint)"]]) {
      element.setAttribute("fill", "none");
      element.style.stroke = colour;
      element.style.strokeWidth = width;
    }
    const handles = [0, 2].map(index => {
      const handle = document.createElementNS(space, "circle");
      handle.setAttribute("r", 7);
      handle.style.cssText = "fill: var(--card); stroke: var(--ink); stroke-width: 2; cursor: grab";
      handle.addEventListener("pointerdown", event => {
        handle.setPointerCapture(event.pointerId);
        let begins = true;
        const move = moved => {
          const inner = svg.getScreenCTM().inverse(), point = new DOMPoint(moved.clientX, moved.clientY).matrixTransform(inner);
          numbers[index] = Math.min(1, Math.max(0, point.x / 100));
          numbers[index + 1] = Math.min(1.5, Math.max(-.5, 1 - point.y / 100));
          go(begins);
          begins = false;
        };
        handle.addEventListener("pointermove", move);
        handle.addEventListener("pointerup", () => handle.removeEventListener("pointermove", move), { once: true });
      });
      return handle;
    });
    svg.append(lines, path, ...handles);
    const rows = ["x1", "y1", "x2", "y2"].map((name, index) =>
      pull(name, { value: numbers[index], min: index % 2 ? -.5 : 0, max: index % 2 ? 1.5 : 1, step: .01, hard: true }, (x, begins) => { numbers[index] = x; go(begins); }));
    const text = () => `cubic-bezier(${numbers.map(x => round(x, 3)).join(", ")})`;
    const shown = () => {
      const [a, b, c, d] = numbers.map((x, index) => (index % 2 ? (1 - x) * 100 : x * 100));
      path.setAttribute("d", `M0 100 C${a} ${b} ${c} ${d} 100 0`);
      lines.setAttribute("d", `M0 100 L${a} ${b} M100 0 L${c} ${d}`);
      handles.forEach((handle, index) => { handle.setAttribute("cx", index ? c : a); handle.setAttribute("cy", index ? d : b); });
    };
    const go = begins => { shown(); rows.forEach((row, index) => row.set(numbers[index])); set(text(), begins); };
    shown();
    const runner = make("i"), track = make("div", { class: "track" }, runner);
    const play = make("button", { type: "button", click: () => runner.animate([{ translate: "0" }, { translate: `${track.clientWidth - runner.offsetWidth - 6}px` }], { duration: 1600, easing: text(), fill: "forwards" }) }, "Play slowly");
    return [svg, ...rows, track, play];
  }

  /** Splits at separators that stand in no brackets. */
  function split(value, separator) {
    const pieces = [""];
    let depth = 0;
    for (const letter of value) {
      if (letter === "(") depth++;
      if (letter === ")") depth--;
      if (letter === separator && depth === 0) pieces.push(""); else pieces[pieces.length - 1] += letter;
    }
    return pieces.map(piece => piece.trim()).filter(Boolean);
  }

  function layersEditor(value, read, write, fresh, row) {
    const layers = split(value, ",").map(read);
    if (layers.some(layer => !layer)) return [];
    const box = make("div");
    const go = begins => set(layers.map(write).join(", "), begins);
    const shown = () => box.replaceChildren(...layers.map((layer, index) => make("div", { class: "layer" }, ...row(layer, go),
      make("button", { type: "button", disabled: layers.length < 2, click: () => { layers.splice(index, 1); go(true); shown(); } }, "Take this one out"))),
      make("button", { type: "button", click: () => { layers.push({ ...(layers.at(-1) ?? fresh) }); go(true); shown(); } }, "Another one"));
    shown();
    return [box];
  }

  const colorField = (layer, go) => make("label", {}, make("span", {}, "colour"), make("input", { type: "text", value: layer.color, change: event => {
    if (!isColor(event.target.value)) return wrong(`${event.target.value} is no colour`);
    wrong(null);
    layer.color = event.target.value;
    go(true);
  } }));

  const editors = {
    color: (choice, value) => colorEditor(value, set, choice.place.path),
    length: (choice, value) => measured(choice, value, "dimension"),
    number: (choice, value) => measured(choice, value, "number"),
    time: (choice, value) => measured(choice, value, "duration"),
    easing: (choice, value) => curveEditor(value),
    keyword: choice => {
      if (!choice.keywords?.length) return [];
      const select = make("select", { "aria-label": "word", change: event => { set(event.target.value, true); } });
      const now = changeOf(choice.place)?.value ?? choice.value;
      for (const word of new Set([now, ...choice.keywords])) select.append(new Option(word, word, false, word === now));
      return [make("label", {}, make("span", {}, "word"), select)];
    },
    font: choice => {
      const select = make("select", { change: event => { set(event.target.value, true); refresh(); } });
      const now = changeOf(choice.place)?.value ?? choice.value;
      select.append(new Option(now, now, true, true));
      for (const token of painting.tokens.filter(token => token.type === "fontFamily" && token.path !== choice.place.path)) select.append(new Option(`${token.path}: ${token.value}`, `{${token.path}}`));
      return [make("label", {}, make("span", {}, "fonts"), select)];
    },
    shadow: (choice, value) => layersEditor(value, layer => {
      const words = split(layer, " "), lengths = words.map(measure).filter(Boolean);
      const color = words.find(word => !measure(word) && word !== "inset");
      return lengths.length >= 2 && color ? { inset: words.includes("inset"), color, x: lengths[0], y: lengths[1], blur: lengths[2] ?? { number: 0, unit: "px" }, spread: lengths[3] ?? { number: 0, unit: "px" } } : null;
    }, ({ inset, x, y, blur, spread, color }) => `${inset ? "inset " : ""}${[x, y, blur, spread].map(({ number, unit }) => `${round(number, 4)}${unit || "px"}`).join(" ")} ${color}`,
    { inset: false, color: "oklch(0.2 0.03 245 / 0.2)", x: { number: 0, unit: "px" }, y: { number: 1, unit: "px" }, blur: { number: 2, unit: "px" }, spread: { number: 0, unit: "px" } },
    (layer, go) => [...["x", "y", "blur", "spread"].map(name => pull(name, { value: layer[name].number, min: name === "blur" ? 0 : -32, max: 48, step: 1 }, (x, begins) => { layer[name] = { number: x, unit: layer[name].unit || "px" }; go(begins); }, layer[name].unit || "px")), colorField(layer, go),
      make("label", {}, make("input", { type: "checkbox", checked: layer.inset, change: event => { layer.inset = event.target.checked; go(true); } }), " inset")]),
    gradient: (choice, value) => layersEditor(value, stop => {
      const [color, place] = split(stop, " ");
      const found = place && measure(place);
      return found ? { color, place: found.unit === "%" ? found.number : found.number * 100 } : null;
    }, ({ color, place }) => `${color} ${round(place, 2)}%`, { color: "oklch(0.5 0.1 230)", place: 50 },
    (stop, go) => [pull("place", { value: stop.place, min: 0, max: 100, step: 1, hard: true }, (x, begins) => { stop.place = x; go(begins); }, "%"), colorField(stop, go)]),
    text: () => [],
  };

  /** What is set, and what to do with it. */
  function made() {
    const box = make("section", { class: "made", "aria-label": "What is set" });
    fillMade(box);
    return box;
  }
  const redrawMade = () => { const box = panel.querySelector(".made"); if (box) fillMade(box); };

  function fillMade(box) {
    const focused = box.contains(document.activeElement) ? document.activeElement.textContent : null;
    const one = change => {
      const diff = make("pre", { hidden: true });
      return make("li", {},
        make("span", {}, `${change.words}: `, make("span", { class: "note" }, `${change.was} → `), isColor(resolved(change.value)) ? chip(resolved(change.value)) : "", change.value),
        make("button", { type: "button", click: () => keep([change]) }, "Keep"),
        make("button", { type: "button", click: () => { remember(); changes = changes.filter(other => other !== change); repaintAll().then(refresh); } }, "Put back"),
        diff);
    };
    const lines = make("div");
    box.replaceChildren(make("h3", {}, changes.length ? `Set and not kept (${changes.length})` : "Nothing is set"),
      make("ul", { class: "changes" }, ...changes.map(one)),
      make("div", { class: "bar" },
        make("button", { type: "button", disabled: !past.length, click: undo }, "Undo"),
        make("button", { type: "button", disabled: !future.length, click: redo }, "Redo"),
        changes.length ? make("button", { type: "button", click: () => showEdits(lines) }, "Show the edits") : "",
        changes.length ? make("button", { type: "button", class: "main", click: () => keep(changes) }, changes.length > 1 ? "Keep all" : "Keep it") : ""),
      lines, ...notices.map(([isWrong, words]) => make("p", { class: isWrong ? "wrong" : "note", role: isWrong ? "alert" : null }, words)));
    if (focused) [...box.querySelectorAll("button")].find(button => button.textContent === focused)?.focus();
  }

  async function showEdits(box) {
    try {
      const { edits } = await ask("edits", sent(changes));
      box.replaceChildren(...edits.flatMap(edit => (edit.why ? [make("p", { class: "wrong" }, edit.why)] : edit.lines.map(line =>
        make("pre", {}, make("span", { class: "note" }, line.at), make("del", {}, ...line.before.split("\n").map(text => `- ${text.trim()}\n`)), make("ins", {}, ...line.after.split("\n").map(text => `+ ${text.trim()}\n`)))))));
    } catch (why) { wrong(why); }
  }

  /** Writes into the sources; what was written comes back with the next drawing. */
  async function keep(some) {
    let answer;
    notices = [];
    try {
      answer = await ask("keep", sent(some));
    } catch (why) {
      notices = [[true, why.message]];
      return redrawMade();
    }
    if (answer.conflicts) {
      notices = answer.conflicts.map(({ change, why }) => [true, `${some[change].words}: ${why}`]);
      return redrawMade();
    }
    nudge.kept = (nudge.kept ?? 0) + answer.kept;
    changes = changes.filter(change => !some.includes(change));
    past = [];
    future = [];
    nudge.changes = changes;
    notices = [[false, `Kept in ${answer.files.join(", ")}.`]];
    tell(`${answer.kept} kept in ${answer.files.join(", ")}`);
    redrawMade();
  }

  /** The sources were drawn anew: what was set is laid over them, and the list asked for again. */
  live.drawn = async () => {
    kept.clear();
    if (panel.hidden && !changes.length) return;
    const opened = [...panel.querySelectorAll(".value")].findIndex(button => button.getAttribute("aria-expanded") === "true");
    spots = null;
    if (changes.length) {
      try { wear((await ask("sheets", sent(changes))).styles); } catch (why) { wrong(why); }
    }
    if (!panel.hidden) {
      await look();
      if (opened >= 0) panel.querySelectorAll(".value")[opened]?.click();
      settle();
    }
  };
})();
