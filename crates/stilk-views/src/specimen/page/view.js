"use strict";
// How the page is looked at: read from the form, kept in the address after a question mark, so that a view can be sent on.
const data = JSON.parse(document.getElementById("data").textContent);
const form = document.querySelector("form.ways");
const plain = ["dir", "zoom", "spacing", "vision", "motion", "boxes", "only", "find"];

function addressed() {
  const [anchor, query = ""] = decodeURI(location.hash.slice(1)).split("?");
  return { anchor, query: new URLSearchParams(query) };
}

/** Sets the form to what the address says. */
function readAddress() {
  const { query } = addressed();
  data.modifiers.forEach((modifier, index) => {
    const wanted = query.get(modifier.name)?.split(" ").filter(name => modifier.contexts.includes(name)) ?? [];
    for (const input of form.querySelectorAll(`input[name="${CSS.escape(modifier.name)}"]`)) {
      const standard = index === 0 || input.value === modifier.contexts[modifier.default];
      input.checked = wanted.length ? wanted.includes(input.value) : standard;
    }
  });
  for (const name of plain) {
    const field = form.elements[name], value = query.get(name) ?? "";
    if (field.type === "checkbox") field.checked = value !== "";
    else field.value = value;
  }
  form.elements.width.value = query.get("width") ?? form.elements.width.max;
  if (["dir", "zoom", "spacing", "vision", "motion", "boxes", "width"].some(name => query.has(name))) {
    form.querySelector("details").open = true;
  }
}

/** What the form says: contexts by modifier, first several of them; and the plain choices. */
function currentView() {
  const contexts = data.modifiers.map(modifier => {
    const inputs = [...form.querySelectorAll(`input[name="${CSS.escape(modifier.name)}"]`)];
    return inputs.filter(input => input.checked).map(input => modifier.contexts.indexOf(input.value));
  });
  const view = { contexts, width: Number(form.elements.width.value) };
  for (const name of plain) {
    const field = form.elements[name];
    view[name] = field.type === "checkbox" ? (field.checked ? field.value : "") : field.value;
  }
  if (view.width >= Number(form.elements.width.max)) view.width = 0;
  // Somebody who takes away the last theme looks at all of them.
  if (contexts[0]?.length === 0) contexts[0] = data.modifiers[0].contexts.map((_, index) => index);
  return view;
}

function writeAddress(view, anchor = addressed().anchor) {
  const query = new URLSearchParams();
  data.modifiers.forEach((modifier, index) => {
    const chosen = view.contexts[index];
    const standard = index === 0 ? chosen.length === modifier.contexts.length : chosen[0] === modifier.default;
    if (!standard) query.set(modifier.name, chosen.map(context => modifier.contexts[context]).join(" "));
  });
  for (const name of plain) if (view[name]) query.set(name, view[name]);
  if (view.width) query.set("width", view.width);
  const text = query.toString();
  history.replaceState(null, "", `#${anchor}${text ? `?${text}` : ""}`);
}

/** The themes that are looked at: their contexts, names and places in the list of all themes. */
function themes(view) {
  const [several = [], ...others] = view.contexts;
  const first = data.modifiers.length ? several : [];
  const all = first.length ? first.map(context => [context, ...others.map(chosen => chosen[0])]) : [[]];
  return all.map(contexts => {
    let place = 0;
    contexts.forEach((context, index) => { place = place * data.modifiers[index].contexts.length + context; });
    return { contexts, place, name: data.themes[place] };
  });
}
