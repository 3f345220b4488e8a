// What a visitor's browser does for a page of controls: each step is timed to the end of the style it brings about and of the
// layout, as `offsetHeight` asks for both. Runs in any browser.
const [step, rounds] = arguments;
const root = document.documentElement;
const flush = () => document.body.offsetHeight;
const all = (selector, most) => [...document.querySelectorAll(selector)].slice(0, most);
const settled = () => new Promise(done => requestAnimationFrame(() => setTimeout(done, 300)));
const median = list => [...list].sort((a, b) => a - b)[list.length >> 1];

const steps = {
    // A page that is shown for the first time: elements without a style before start no transition.
    'first style': {
        prepare: () => { root.style.display = 'none'; flush(); },
        run: () => { root.style.display = ''; },
        only: true,
    },
    theme: {
        run: on => root.setAttribute('data-theme', on ? 'night' : 'day'),
    },
    density: {
        run: on => on ? root.setAttribute('data-density', 'tight') : root.removeAttribute('data-density'),
    },
    'root font': {
        run: on => root.style.fontSize = on ? '18px' : '',
    },
    'toggle 100': {
        targets: () => all('input[type=checkbox]', 100),
        run: (on, targets) => targets.forEach(one => one.checked = on),
    },
    'invalid 50': {
        targets: () => all('input[type=text]', 50),
        run: (on, targets) => targets.forEach(one => on ? one.setAttribute('aria-invalid', 'true') : one.removeAttribute('aria-invalid')),
    },
    typing: {
        targets: () => all('input[type=text]', 1),
        run: (on, [field]) => { for (let at = 0; at < 20; at++) { field.value = 'Kittiwake'.slice(0, at % 9 + (on ? 1 : 0)); flush(); } },
    },
    'insert 60': {
        targets: () => {
            const copies = document.createElement('div');
            copies.append(...[...document.body.children].slice(0, 60).map(one => one.cloneNode(true)));
            return [copies];
        },
        run: (on, [copies]) => on ? document.body.append(copies) : copies.remove(),
        // Taking out says little of styles: what comes in is counted.
        only: true,
    },
};

const { prepare, targets, run, only } = steps[step];
return (async () => {
    const chosen = targets ? targets() : [];
    flush();
    const times = [];
    for (let round = 0; round < rounds; round++) {
        const on = round % 2 === 0;
        await settled();
        if (prepare) prepare();
        const started = performance.now();
        run(on, chosen);
        flush();
        const time = performance.now() - started;
        if (only === undefined || on === only) times.push(time);
    }
    run(false, chosen);
    flush();
    return median(times);
})();
