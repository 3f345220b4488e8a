// Follows the sources: repaints with new stylesheets at once, takes over the new page when its figures are there, shows what is
// wrong over the page, and marks the cells that are others since the last save.
{
  const live = window.stilkLive;
  live.repaints = 0;
  const painted = () => new Promise(done => requestAnimationFrame(() => setTimeout(done)));

  const overlay = document.createElement("div");
  overlay.id = "stilk-errors";
  overlay.setAttribute("role", "alert");
  overlay.style.cssText = "all: initial; position: fixed; inset: auto 0 0; z-index: 9; display: none; max-block-size: 70vh; overflow: auto; " +
    "padding: 1rem 1.5rem; box-sizing: border-box; background: #fffdf6; color: #2a2520; border-block-start: 4px solid #a3231b; box-shadow: 0 0 2rem #0006;";
  const title = document.createElement("p");
  title.style.cssText = "all: initial; display: block; font: italic 1.25rem serif; color: #a3231b; margin-block-end: .5rem;";
  title.textContent = "The sources cannot be drawn: this is how they were.";
  const said = document.createElement("pre");
  said.style.cssText = "all: initial; display: block; font: .8125rem/1.45 ui-monospace, 'DejaVu Sans Mono', monospace; color: #2a2520; white-space: pre-wrap;";
  overlay.append(title, said);
  document.body.append(overlay);

  function showErrors(errors) {
    said.textContent = errors ?? "";
    overlay.style.display = errors ? "block" : "none";
  }

  /** Brings rules to what newer ones say where both have the same form: the browser then styles anew only what they reach. */
  function adapt(rules, newer) {
    if (rules.length !== newer.length) return false;
    for (let i = 0; i < rules.length; i++) {
      const [rule, other] = [rules[i], newer[i]];
      if (rule.constructor !== other.constructor) return false;
      if (rule.style && rule.selectorText !== undefined) {
        if (rule.selectorText !== other.selectorText || rule.cssRules?.length || other.cssRules?.length) return false;
        if (rule.style.cssText !== other.style.cssText) rule.style.cssText = other.style.cssText;
      } else if (rule.cssRules && !(rule instanceof CSSKeyframesRule)) {
        if (rule.conditionText !== other.conditionText && !rule.said || rule.name !== other.name) return false;
        if (!adapt(rule.cssRules, other.cssRules)) return false;
      } else if (rule.cssText !== other.cssText) {
        return false;
      }
    }
    return true;
  }

  function replaceStyles(name, text) {
    const newer = new CSSStyleSheet();
    newer.replaceSync(text);
    if (adapt(sheets[name].cssRules, newer.cssRules)) return;
    sheets[name].replaceSync(text);
    setMotion(sheets[name]);
  }

  async function repaint([pictures, trial]) {
    const started = performance.now();
    replaceStyles("pictures", pictures);
    live.styled = performance.now() - started;
    await painted();
    live.took = performance.now() - started;
    live.repainted = Date.now();
    live.repaints++;
    // The pictures are what is looked at; one frame later the controls to try follow.
    replaceStyles("trial", trial);
    changed.clear();
    for (const cell of marked()) cell.classList.remove("changed");
    idle(() => {
      for (const area of document.querySelectorAll("[data-sheet]")) {
        for (const table of area.tables ?? []) sign(...table, true);
      }
      live.marked = marked().length;
    });
  }

  const marked = () => [...document.querySelectorAll("[data-sheet] .theme")].flatMap(host => [...host.shadowRoot.querySelectorAll("td.changed")]);

  /** Figures by row, column and theme: rows and columns may have moved. */
  function figures(controls, root) {
    const all = new Map();
    for (const control of controls) {
      const table = root.getElementById(`sheet-${control.name}`).content;
      const columns = [...table.querySelectorAll("thead th")].slice(1).map(cell => cell.textContent);
      const rows = [...table.querySelectorAll("tbody th")].map(cell => cell.textContent);
      control.figures.forEach((text, theme) => text.split("|").forEach((code, index) => {
        const row = rows[Math.floor(index / columns.length)], column = columns[index % columns.length];
        all.set([control.name, theme, row, column].join("|"), [code, `${control.name}|${theme}|${index}`]);
      }));
    }
    return all;
  }

  const figureText = code => { const cell = document.createElement("td"); figure(cell, code); return cell.textContent; };

  /** Takes over a newer page and keeps what the reader has: place, focus, choices, what is open. */
  async function replace() {
    const text = await (await fetch("/")).text();
    const next = new DOMParser().parseFromString(text, "text/html");
    const script = next.getElementById("data");
    if (!script) return;
    const newer = JSON.parse(script.textContent);
    const shape = data => JSON.stringify([data.modifiers, data.themes]);
    // A new page waits for what it is made with; other themes ask for other ways of looking.
    if (!document.getElementById("data") || shape(newer) !== shape(data)) return location.reload();
    const before = figures(data.controls, document), after = figures(newer.controls, next);
    for (const [key, [code, place]] of after) {
      const was = before.get(key)?.[0];
      if (was !== undefined && was !== code) changed.set(place, figureText(was).replace("✗ ", ""));
    }
    const top = [...document.querySelectorAll("section.control, .tokens li")].find(element => element.getBoundingClientRect().bottom > 0);
    const anchor = top && { of: top.dataset.control ?? top.id, is: top.localName, y: top.getBoundingClientRect().top };
    const active = document.activeElement;
    const focused = active?.closest("main") && { of: active.closest("[data-control]")?.dataset.control, id: active.id,
      label: active.getAttribute("aria-label") ?? active.closest("label")?.textContent ?? active.textContent };
    const choices = new Map([...document.querySelectorAll("[data-try]")].map(area =>
      [area.dataset.try, { values: [...area.querySelectorAll(".choices select")].map(select => select.value) }]));
    const opened = new Set([...document.querySelectorAll("main details[open]")].map(details =>
      `${details.closest("[data-control]")?.dataset.control} ${details.className}`));
    Object.assign(data, newer);
    byName.clear();
    for (const control of data.controls) byName.set(control.name, control);
    near.disconnect();
    soon.disconnect();
    const heights = new Map([...document.querySelectorAll("[data-sheet]")].map(area => [area.dataset.sheet, area.getBoundingClientRect().height]));
    document.querySelector(".masthead").replaceWith(document.adoptNode(next.querySelector(".masthead")));
    document.querySelector("main").replaceWith(document.adoptNode(next.querySelector("main")));
    for (const area of document.querySelectorAll("[data-sheet]")) {
      const height = heights.get(area.dataset.sheet);
      if (height) area.style.minBlockSize = `${height}px`;
    }
    for (const area of document.querySelectorAll("[data-try]")) {
      const kept = choices.get(area.dataset.try);
      if (!kept?.values.length) { soon.observe(area); continue; }
      offerTrial(area);
      area.querySelectorAll(".choices select").forEach((select, index) => {
        if ([...select.options].some(option => option.value === kept.values[index])) select.value = kept.values[index];
      });
      area.stand();
    }
    for (const details of document.querySelectorAll("main details")) {
      details.open = opened.has(`${details.closest("[data-control]")?.dataset.control} ${details.className}`);
    }
    held = null;
    for (const area of document.querySelectorAll("[data-sheet]")) {
      const box = area.getBoundingClientRect();
      if (box.bottom > -800 && box.top < innerHeight + 800) mountSheet(area);
    }
    apply();
    const again = anchor && (anchor.is === "li" ? document.getElementById(anchor.of)
      : document.querySelector(`section[data-control="${CSS.escape(anchor.of)}"]`));
    if (again) scrollBy({ top: again.getBoundingClientRect().top - anchor.y, behavior: "instant" });
    if (focused) {
      const around = focused.of ? document.querySelector(`section[data-control="${CSS.escape(focused.of)}"]`) : document;
      const label = element => element.getAttribute("aria-label") ?? element.closest("label")?.textContent ?? element.textContent;
      const found = (focused.id && document.getElementById(focused.id))
        || [...(around?.querySelectorAll("a, button, select, summary, [tabindex]") ?? [])].find(element => label(element) === focused.label);
      found?.focus({ preventScroll: true });
    }
    live.pages = (live.pages ?? 0) + 1;
    await live.drawn?.();
  }

  // One piece of news after the other: the next waits until the last is on the page.
  let taken = Promise.resolve();
  async function take(event) {
    const news = JSON.parse(event.data);
    live.version = news.version;
    live.run = event.lastEventId.split("-")[0];
    if ("errors" in news) showErrors(news.errors);
    if (news.styles && typeof sheets !== "undefined") await repaint(news.styles);
    if (news.page) await replace();
  }

  // A browser keeps few connections to one address: a page that nobody sees gives its own back.
  let source = null;
  function follow() {
    if (document.hidden) {
      source?.close();
      source = null;
    } else if (!source) {
      source = new EventSource(`/changes?since=${live.run}-${live.version}`);
      source.onmessage = event => { taken = taken.then(() => take(event)).catch(error => console.error(error)); };
      // Where the program has ended or refuses, it is asked again later: a refusal ends the asking for good otherwise.
      source.onerror = () => {
        if (source?.readyState !== EventSource.CLOSED) return;
        source = null;
        setTimeout(follow, 1000);
      };
    }
  }
  document.addEventListener("visibilitychange", follow);
  showErrors(live.errors);
  follow();
}
