// The control itself, with the shipped stylesheet: choose a variant, use it, copy its markup.

/** Whether an exclusion of the sheet covers these options on this host. */
function covers(exclude, chosen, host) {
  const any = list => list.some(name => chosen.includes(name));
  return any(exclude.options) && (!exclude.with.length || any(exclude.with)) && !any(exclude.without)
    && (!exclude.hosts || exclude.hosts.includes(host));
}

/** The markup of a variant: elements of other options left out, classes and other marks added. */
function markup(control, host, chosen) {
  const template = document.createElement("template");
  template.innerHTML = control.hosts[host].html;
  for (const element of template.content.querySelectorAll("[data-when]")) {
    const options = element.dataset.when.split(/\s+/);
    if (options.some(name => chosen.includes(name))) {
      element.removeAttribute("data-when");
      continue;
    }
    const before = element.previousSibling;
    if (before?.nodeType === Node.TEXT_NODE && !before.data.trim()) before.remove();
    element.remove();
  }
  const element = template.content.firstElementChild;
  const marked = control.axes.flatMap(axis => axis.options.filter(option => option.mark && chosen.includes(option.name)));
  const classes = marked.filter(option => option.mark[0] === "class").map(option => option.mark[1]);
  const own = (element.getAttribute("class") ?? "").split(" ").filter(Boolean);
  own.splice(control.mark[0] === "class" ? 1 : 0, 0, ...classes);
  if (own.length) element.setAttribute("class", own.join(" "));
  for (const { mark: [name, value] } of marked) if (name !== "class") element.setAttribute(name, value);
  return element.outerHTML;
}

function field(label, options, change) {
  const wrap = document.createElement("label");
  const name = document.createElement("span");
  name.textContent = label;
  const select = document.createElement("select");
  for (const [value, text] of options) select.append(new Option(text, value));
  select.addEventListener("change", change);
  wrap.append(name, select);
  return [wrap, select];
}

function offerTrial(area) {
  const control = byName.get(area.dataset.try);
  const choices = area.querySelector(".choices");
  const stages = area.querySelector(".stages");
  const code = area.querySelector("code");
  const copy = area.querySelector(".copy");
  const [hostField, host] = field("on", control.hosts.map((h, i) => [i, h.name]), () => area.stand());
  const axes = control.axes.map(axis => {
    const options = axis.options.map(option => [option.name, option.name]);
    const [wrap, select] = field(axis.name, axis.default === null ? [["", "–"], ...options] : options, () => area.stand());
    if (axis.default !== null) select.value = axis.options[axis.default].name;
    select.dataset.standard = select.value;
    return { axis, wrap, select };
  });
  if (control.hosts.length > 1) choices.append(hostField);
  choices.append(...axes.map(axis => axis.wrap));
  const note = document.createElement("p");
  note.className = "note";
  note.setAttribute("role", "status");
  choices.append(note);
  choices.addEventListener("submit", event => event.preventDefault());
  area.stand = () => {
    const chosen = axes.map(axis => axis.select.value).filter(Boolean);
    const at = Number(host.value || 0);
    // What cannot stand with the other choices is not offered.
    for (const { select } of axes) {
      for (const option of select.options) {
        const others = axes.filter(axis => axis.select !== select).map(axis => axis.select.value).filter(Boolean);
        option.disabled = control.excludes.some(exclude => covers(exclude, [...others, option.value], at));
      }
    }
    const excluded = control.excludes.some(exclude => covers(exclude, chosen, at));
    note.textContent = excluded ? "The sheet excludes this variant." : "";
    const html = markup(control, at, chosen);
    code.textContent = html;
    stages.replaceChildren();
    for (const theme of themes(view)) {
      const root = ground(stages, theme, "stage", [sheets.trial], box => {
        const title = document.createElement("span");
        title.className = "name";
        title.dir = "ltr";
        title.textContent = theme.name;
        const mount = document.createElement("div");
        mount.className = "mount";
        mount.innerHTML = html;
        box.append(title, mount);
      });
      // A specimen leads nowhere and sends nothing.
      root.addEventListener("click", event => { if (event.target.closest("a, [type=submit]")) event.preventDefault(); });
      targets(root);
    }
  };
  copy.addEventListener("click", async () => {
    try {
      await navigator.clipboard.writeText(code.textContent);
      copy.textContent = "Copied";
    } catch {
      getSelection().selectAllChildren(code);
      copy.textContent = "Selected: copy it with the keyboard";
    }
    setTimeout(() => { copy.textContent = "Copy"; }, 2000);
  });
  area.stand();
}

const soon = new IntersectionObserver(entries => {
  for (const entry of entries) {
    if (!entry.isIntersecting) continue;
    soon.unobserve(entry.target);
    offerTrial(entry.target);
  }
}, { rootMargin: "800px 0px" });
