// What depends on room: a cell of a table shows nothing of a row of buttons, or of a choice that fills its place. Such pictures
// are drawn once more, as wide as the sheet.

/** Widths that a picture is tried at, in rem: what a cell gives it, and two that show which of its elements go with the room. */
const tried = [18, 40, 60];

/** More rows than these are not asked. */
const asked = 400;

/** A picture again: with ids and groups of radios of its own, or it would take the choice of the first. */
function again(picture, mark) {
  const copy = picture.cloneNode(true);
  for (const element of copy.querySelectorAll("*")) {
    for (const { name, value } of [...element.attributes]) {
      const own = value.replace(/(?<!\S)s(?=\d+-)/g, mark);
      if (own !== value && name !== "class") element.setAttribute(name, own);
    }
  }
  return copy;
}

/** Where that is what is seen of an element: its text, and its box where that is painted. */
function seen(element) {
  const boxes = [];
  const style = getComputedStyle(element);
  const hasEdge = ["top", "right", "bottom", "left"].some(side => style[`border-${side}-style`] !== "none" && style[`border-${side}-width`] !== "0px");
  const isGenerated = ["::before", "::after"].some(name => !["none", "normal"].includes(getComputedStyle(element, name).content));
  const isReplaced = /^(?:img|svg|canvas|video|input|select|textarea|button|progress|meter)$/.test(element.localName);
  const isPainted = style.backgroundImage !== "none" || !/^(?:transparent|rgba\(0, 0, 0, 0\))$/.test(style.backgroundColor)
    || style.boxShadow !== "none" || hasEdge || isGenerated || isReplaced;
  if (isPainted) boxes.push(element.getBoundingClientRect());
  for (const node of element.childNodes) {
    if (node.nodeType !== Node.TEXT_NODE || !node.data.trim()) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    boxes.push(range.getBoundingClientRect());
  }
  return boxes;
}

/** How what is seen of each picture goes with the room, as texts: nothing where room is nothing to it. */
function answers(root, pictures) {
  const probe = document.createElement("div");
  probe.className = "probe";
  const all = pictures.map((picture, at) => tried.map((width, step) => {
    const copy = again(picture, `p${at}-${step}-`);
    copy.style.cssText = `inline-size: ${width}rem; max-inline-size: none; min-inline-size: 0`;
    probe.append(copy);
    return copy;
  }));
  root.firstElementChild.append(probe);
  const boxes = all.map(copies => copies.map(copy => {
    const base = copy.getBoundingClientRect();
    return [...copy.querySelectorAll("*")].flatMap(seen)
      .map(box => (box.width && box.height ? [box.left - base.left, box.width, box.height, box.top - base.top] : [0, 0, 0, 0]));
  }));
  probe.remove();
  return boxes.map(([narrow, broad, broader]) => {
    const go = broad.map(([left, width], i) => `${Math.round(broader[i]?.[0] - left)} ${Math.round(broader[i]?.[1] - width)}`);
    const own = [...new Set(go.filter(text => text !== "0 0"))].sort();
    // Nothing that grows, and yet another arrangement than in a cell: it was broken into lines there.
    const isBroken = narrow.some(([, ...box], i) => box.some((length, side) => Math.abs(length - broad[i]?.[side + 1]) > 1));
    return own.length ? own.join() : isBroken ? "broken" : "";
  });
}

/** The rows that are drawn as wide as the sheet: the default, and those that take the room in another way. */
function broadRows(root, table) {
  const rows = [...table.querySelectorAll("tbody tr")].slice(0, asked);
  const texts = answers(root, rows.map(row => row.querySelector("td > .mount")));
  if (texts.every(text => text === "")) return [];
  return texts.flatMap((text, index) => (index === 0 || texts.indexOf(text) === index ? [index] : []));
}

/** Draws what depends on room above its table. */
function drawBroad(area, root, table, control) {
  // Whoever asks for a width looks at that width.
  if (view.width) return;
  const all = document.getElementById(`sheet-${control.name}`).content.firstElementChild;
  control.broad ??= broadRows(root, all);
  if (!control.broad.length) return;
  const rows = all.querySelectorAll("tbody tr"), columns = all.querySelectorAll("thead th").length - 1;
  const list = document.createElement("div");
  list.className = "broad-pictures";
  for (const index of control.broad) {
    const name = rows[index].querySelector("th").textContent;
    if (!(name.toLowerCase().includes(words()) || matches(control.name))) continue;
    const text = document.createElement("span");
    text.className = "name";
    text.dir = "ltr";
    text.textContent = name;
    const picture = again(rows[index].querySelector("td > .mount"), "b");
    picture.place = index * columns;
    list.append(text, picture);
  }
  table.before(list);
  rooms.observe(area);
}

/** A sheet scrolls with its table; what is as wide as the sheet stays as wide as what is seen of it. */
const rooms = new ResizeObserver(entries => {
  for (const { target, contentRect } of entries) {
    for (const theme of target.querySelectorAll(":scope > .theme")) {
      const list = theme.shadowRoot.querySelector(".broad-pictures");
      if (list) list.style.inlineSize = `calc(${contentRect.width}px - 2rem)`;
    }
  }
});
