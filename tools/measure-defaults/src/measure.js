// Reads what a browser brings along: for each element the properties whose computed value no plain element has.
//
// Every element is read in parents that differ in every inherited property, in font size and in colour scheme: a value
// that follows the parent is not set; one that follows the font size is in `em`; one that follows the scheme is
// `light-dark()`. A declaration that the page cannot override is `!important`. Where nothing is laid out
// (`display: none` around), browsers answer with computed values.

const [names, inherited] = arguments;
let known = names.filter(name => getComputedStyle(document.documentElement).getPropertyValue(name) !== '');
const isInherited = new Set(inherited);
// An element that takes over everything it can.
const taking = inherited.map(name => `${name}: inherit`).join(';');

// Values that no element has by itself, for every inherited property.
const UNUSUAL = {
    'accent-color': 'rgb(1, 2, 3)', 'border-collapse': 'collapse', 'caption-side': 'bottom', 'caret-color': 'rgb(4, 5, 6)',
    'color': 'rgb(7, 8, 9)', 'cursor': 'grab', 'empty-cells': 'hide', 'fill': 'rgb(1, 1, 1)', 'fill-opacity': '0.3',
    'fill-rule': 'evenodd', 'font-family': 'Unusual', 'font-kerning': 'none', 'font-optical-sizing': 'none',
    'font-size': '40px', 'font-stretch': '75%', 'font-style': 'oblique', 'font-variant-caps': 'small-caps',
    'font-weight': '100', 'hyphens': 'none', 'image-rendering': 'pixelated', 'letter-spacing': '3px',
    'line-break': 'strict', 'line-height': '77px', 'list-style-position': 'inside', 'list-style-type': 'lower-roman',
    'orphans': '4', 'overflow-wrap': 'anywhere', 'pointer-events': 'none', 'stroke-width': '7px', 'tab-size': '5',
    'text-align': 'justify', 'text-align-last': 'center', 'text-indent': '11px', 'text-rendering': 'geometricprecision',
    'text-shadow': 'rgb(1, 2, 3) 1px 2px 3px', 'text-transform': 'capitalize', 'text-underline-offset': '3px',
    'text-wrap-mode': 'nowrap', 'white-space-collapse': 'preserve-breaks', 'widows': '5', 'word-break': 'break-all',
    'word-spacing': '5px', 'visibility': 'hidden', 'user-select': 'all', 'print-color-adjust': 'exact',
    'border-spacing': '7px', 'clip-rule': 'evenodd', 'color-interpolation': 'linearrgb', 'dominant-baseline': 'middle',
    'font-feature-settings': '"abcd"', 'font-synthesis-small-caps': 'none', 'font-synthesis-style': 'none', 'font-synthesis-weight': 'none',
    'font-variant-east-asian': 'ruby', 'font-variant-emoji': 'emoji', 'font-variant-ligatures': 'none', 'font-variation-settings': '"abcd" 5',
    'hyphenate-character': '"x"', 'image-orientation': 'none', 'interpolate-size': 'allow-keywords', 'math-style': 'compact',
    'quotes': '"a" "b"', 'ruby-align': 'start', 'ruby-position': 'under', 'shape-rendering': 'crispedges', 'stroke-miterlimit': '7',
    'text-anchor': 'end', 'text-combine-upright': 'all', 'text-justify': 'none', 'text-orientation': 'upright', 'text-size-adjust': '80%',
    '-webkit-font-smoothing': 'none', '-webkit-tap-highlight-color': 'rgb(1, 2, 3)',
    '-webkit-text-security': 'square', '-webkit-text-stroke-width': '3px', 'text-emphasis-position': 'under',
    'scrollbar-color': 'rgb(1, 2, 3) rgb(4, 5, 6)', 'text-decoration-skip-ink': 'none', 'text-wrap-style': 'balance',
};

// Each: what it is called in the stylesheet, its markup, and what is measured of it besides rest.
const one = (selector, html, extra = {}) => ({ selector, html, ...extra });
// Made by script: the parser would drop some of them.
const plain = name => one(name, `<x-made data-name=${name}></x-made>`);
const input = (type, attributes = '') =>
    one(`input[type="${type}" i]`, `<input data-it type=${type} ${attributes}>`, { base: 'input', states: ['disabled'] });

const HOSTS = [
    ...['html', 'body'].map(name => one(name, null, { root: name })),
    ...['address', 'article', 'aside', 'blockquote', 'center', 'dd', 'details', 'dialog', 'dir', 'div', 'dl', 'dt', 'fieldset',
        'figcaption', 'figure', 'footer', 'form', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'header', 'hgroup', 'hr', 'legend',
        'listing', 'main', 'menu', 'nav', 'ol', 'p', 'pre', 'search', 'section', 'summary', 'ul', 'xmp', 'li',
        'abbr', 'acronym', 'b', 'bdi', 'bdo', 'big', 'cite', 'code', 'del', 'dfn', 'em', 'i', 'ins', 'kbd', 'label', 'mark',
        'nobr', 'output', 'q', 'rp', 'rt', 'ruby', 's', 'samp', 'small', 'span', 'strike', 'strong', 'sub', 'sup', 'tt', 'u',
        'var', 'wbr', 'iframe', 'img', 'video', 'audio', 'canvas', 'object', 'embed', 'meter', 'progress', 'slot',
        'area', 'base', 'datalist', 'head', 'link', 'meta', 'noembed', 'noframes', 'param', 'script', 'style', 'template',
        'title', 'marquee', 'plaintext', 'frameset', 'frame', 'optgroup', 'a'].map(plain),
    one('svg', '<svg data-it></svg>'),
    // Drawings have a sheet of their own.
    ...['circle', 'clipPath', 'defs', 'desc', 'ellipse', 'filter', 'foreignObject', 'g', 'image', 'line', 'linearGradient', 'marker',
        'mask', 'metadata', 'path', 'pattern', 'polygon', 'polyline', 'radialGradient', 'rect', 'stop', 'switch', 'symbol', 'text', 'use',
        'view'].map(name => one(name, `<svg><${name} data-it></${name}></svg>`)),
    ...['tspan', 'textPath'].map(name => one(name, `<svg><text><${name} data-it></${name}></text></svg>`)),
    one('svg svg', '<svg><svg data-it></svg></svg>', { base: 'svg' }),
    one('svg a:any-link', '<svg><a data-it href="#x"></a></svg>'),
    one('table', '<table data-it></table>'),
    ...['caption', 'colgroup', 'thead', 'tbody', 'tfoot'].map(name => one(name, `<table><${name} data-it></${name}></table>`)),
    one('col', '<table><colgroup><col data-it></colgroup></table>'),
    one('tr', '<table><tr data-it></tr></table>'),
    one('td', '<table><tr><td data-it></td></tr></table>'),
    one('th', '<table><tr><th data-it></th></tr></table>'),
    one('a:any-link', '<a data-it href="#x">x</a>', { base: 'a', states: ['active', 'focus'] }),
    one('button', '<button data-it>x</button>', { states: ['disabled', 'active', 'hover', 'focus'] }),
    one('input', '<input data-it>', { states: ['disabled', 'readonly', 'focus', 'hover'] }),
    one('textarea', '<textarea data-it></textarea>', { states: ['disabled', 'readonly', 'focus', 'hover'] }),
    one('select', '<select data-it><option>x</select>', { states: ['disabled', 'focus', 'hover'] }),
    one('select:is([multiple], [size]:not([size="1"]))', '<select data-it multiple><option>x</select>', { base: 'select', states: ['disabled'] }),
    ...['text', 'search', 'tel', 'url', 'email', 'password', 'date', 'month', 'week', 'time', 'datetime-local', 'number', 'color',
        'image', 'hidden'].map(type => input(type)),
    ...['checkbox', 'radio', 'range', 'file', 'submit', 'reset', 'button'].map(type =>
        ({ ...input(type, type === 'file' ? '' : 'value=1'), states: ['disabled', 'focus', 'active', 'hover', 'checked'] })),
    plain('option'),
    // A list keeps to values of its own: what its options have by themselves shows where it takes over what is around it.
    one('select option', `<select style="${taking}"><option data-it>x</select>`, { base: 'option', states: ['disabled'] }),
    one('select:is([multiple], [size]:not([size="1"])) option', `<select multiple style="${taking}"><option data-it>x</select>`,
        { base: 'select option', states: ['disabled'] }),
    one('select:is([multiple], [size]:not([size="1"])) option:checked', `<select multiple style="${taking}"><option data-it selected>x</select>`,
        { base: 'select:is([multiple], [size]:not([size="1"])) option', states: ['disabled'] }),
    one('select:disabled option', `<select disabled style="${taking}"><option data-it>x</select>`, { base: 'select option' }),
    one('select:is([multiple], [size]:not([size="1"])):disabled option',
        `<select multiple disabled style="${taking}"><option data-it>x</select>`,
        { base: 'select:is([multiple], [size]:not([size="1"])) option' }),
    one('select optgroup', '<select><optgroup data-it></optgroup></select>', { base: 'optgroup', states: ['disabled'] }),
    one('select:is([multiple], [size]:not([size="1"])) optgroup', '<select multiple><optgroup data-it></optgroup></select>',
        { base: 'select optgroup', states: ['disabled'] }),
    one('optgroup option', `<select style="${taking}"><optgroup><option data-it>x</select>`, { base: 'select option' }),
    one('select:is([multiple], [size]:not([size="1"])) optgroup option',
        `<select multiple style="${taking}"><optgroup><option data-it>x</select>`,
        { base: 'select:is([multiple], [size]:not([size="1"])) option' }),
    one('details > summary:first-of-type', '<details><summary data-it>x</summary></details>', { base: 'summary', states: ['focus'] }),
    one('details[open] > summary:first-of-type', '<details open><summary data-it>x</summary></details>', { base: 'details > summary:first-of-type' }),
    one('fieldset > legend', '<fieldset><legend data-it>x</legend></fieldset>', { base: 'legend' }),
    one('dialog[open]', '<dialog data-it open></dialog>', { base: 'dialog' }),
    one('img[alt]', '<img data-it alt=x>', { base: 'img' }),
    one(':is(ul, ol, menu, dir) ul', '<ul><li><ul data-it></ul></li></ul>', { base: 'ul' }),
    one(':is(ul, ol, menu, dir) :is(ul, ol, menu, dir) ul', '<ul><li><ul><li><ul data-it></ul></li></ul></li></ul>', { base: 'ul' }),
    one(':is(ul, ol, menu, dir) ol', '<ul><li><ol data-it></ol></li></ul>', { base: 'ol' }),
    ...['menu', 'dir', 'dl'].map(name => one(`:is(ul, ol, menu, dir) ${name}`, `<ul><li><${name} data-it></${name}></ul>`, { base: name })),
    ...['ul', 'ol', 'menu', 'dir', 'dl'].map(name => one(`dl ${name}`, `<dl><dd><${name} data-it></${name}></dl>`, { base: name })),
    one('[popover]:not(:popover-open)', '<div data-it popover></div>', { base: 'div' }),
    one('[hidden]:not([hidden="until-found" i])', '<div data-it hidden></div>', { base: 'div' }),
    one('[hidden="until-found" i]', '<div data-it hidden=until-found></div>', { base: 'div' }),
    one('abbr[title]', '<abbr data-it title=x></abbr>', { base: 'abbr' }),
    one('acronym[title]', '<acronym data-it title=x></acronym>', { base: 'acronym' }),
    one('ruby > rt', '<ruby>x<rt data-it></rt></ruby>', { base: 'rt' }),
    one('[dir="rtl" i]', '<x-plain data-it dir=rtl></x-plain>'),
    one('[dir="ltr" i]', '<x-plain data-it dir=ltr></x-plain>'),
    one('[dir="auto" i]', '<x-plain data-it dir=auto></x-plain>'),
    one('bdo[dir="rtl" i]', '<bdo data-it dir=rtl></bdo>', { base: 'bdo' }),
    { selector: ':focus-visible', html: '<x-plain data-it tabindex=0>x</x-plain>', states: ['focus'] },
    one('q::before', '<q data-it></q>', { pseudo: '::before', of: 'q' }),
    one('q::after', '<q data-it></q>', { pseudo: '::after', of: 'q' }),
    one('textarea::placeholder', '<textarea data-it placeholder=x></textarea>', { pseudo: '::placeholder', of: 'textarea' }),
    one('input::placeholder', '<input data-it placeholder=x style="line-height: 33px">', { pseudo: '::placeholder', of: 'input' }),
    one('input[type="file" i]::file-selector-button', `<input data-it type=file style="${taking}">`, { pseudo: '::file-selector-button', of: 'input[type="file" i]', states: ['disabled'] }),
];

const style = document.createElement('style');
document.head.append(style);
style.textContent = `
    .unusual { ${Object.entries(UNUSUAL).map(([name, value]) => `${name}: ${value};`).join(' ')} }
    .dark { color-scheme: dark; } .large { font-size: 40px; } .rtl { direction: rtl; } .vertical { writing-mode: vertical-rl; } .away { display: none; }`;

// The settings in which everything is read.
const SETTINGS = { usual: '', unusual: 'unusual', large: 'large', dark: 'dark', rtl: 'rtl', vertical: 'vertical' };

const TINT = 'rgb(9, 19, 29)';

const read = (element, pseudo) => {
    const computed = getComputedStyle(element, pseudo || null);
    const values = {};
    known.forEach(name => { values[name] = computed.getPropertyValue(name); });
    // An automatic minimum is nothing where no container asks for it.
    ['min-width', 'min-height'].forEach(name => { if (values[name] === '0px') values[name] = 'auto'; });
    return values;
};

// Puts markup into a place of a setting; the caller takes it away.
const place = (html, setting, away = true) => {
    const outer = document.createElement('div');
    outer.className = `${SETTINGS[setting]} ${away ? 'away' : ''}`;
    outer.innerHTML = html;
    outer.querySelectorAll('x-made').forEach(made => {
        const element = document.createElement(made.dataset.name);
        element.dataset.it = '';
        made.replaceWith(element);
    });
    document.body.append(outer);
    return outer;
};

const inSettings = (html, pseudo, change = () => {}) => {
    const all = {};
    for (const setting of Object.keys(SETTINGS)) {
        const outer = place(html, setting);
        const element = outer.querySelector('[data-it]');
        change(element);
        all[setting] = { own: read(element, pseudo), parent: read(pseudo ? element : element.parentElement) };
        if (setting === 'usual' && !pseudo) {
            // What follows the element's own colour is `currentcolor` or `auto`.
            element.style.setProperty('color', TINT);
            all.tinted = read(element);
        }
        outer.remove();
    }
    return all;
};

const plainElement = inSettings('<x-plain data-it></x-plain>');
// What this browser does not inherit, though it should, would be written for every element: of drawings nobody asks.
known = known.filter(name => name !== 'dominant-baseline'
    || plainElement.unusual.own[name] === plainElement.unusual.parent[name]);

const px = text => /^-?[\d.]+(e[-+]\d+)?px$/.test(text) ? parseFloat(text) : null;
const round = number => String(Math.round(number * 1e4) / 1e4);

// The declaration that gives these values, or null where a plain element has them too.
const explain = (name, all) => {
    const at = setting => all[setting].own[name];
    const [usual, unusual, large, dark] = [at('usual'), at('unusual'), at('large'), at('dark')];
    const parent = setting => all[setting].parent[name];
    const settings = Object.keys(SETTINGS);
    if (name === 'caret-color' && !all.tinted) return null;
    if (name !== 'color' && name.endsWith('color') && all.tinted && all.tinted[name] === TINT) return null;
    if (name !== 'color' && isInherited.has(name) && name.endsWith('color') && !all.tinted
        && settings.every(setting => at(setting) === all[setting].own.color)) return null;
    // Sides that follow the text are written once, for the text's own sides.
    const box = name.split('-')[0];
    if (['margin', 'padding'].includes(box) && flows(box, all)) return null;
    const turned = name.includes('left') ? name.replace('left', 'right') : name.replace('right', 'left');
    if (turned !== name && at('rtl') !== usual && at('rtl') === all.usual.own[turned]) {
        // Follows the direction: written once, for its own side.
        return null;
    }
    if (isInherited.has(name)) {
        if (settings.every(setting => at(setting) === parent(setting))) return null;
    } else {
        if (settings.every(setting => at(setting) === plainElement[setting].own[name])) return null;
        if (name !== 'color' && name.endsWith('color') && !all.tinted
            && settings.every(setting => at(setting) === all[setting].own.color)) return null;
        // Lengths in a unit of the font that a plain element has as well.
        if (settings.every(setting => at(setting) === parent(setting)) && usual !== unusual) return 'inherit';
    }
    // A fixed-width family brings a smaller size along where the size is nobody's choice; the engine knows that.
    if (name === 'font-size' && at('large') === parent('large')) return null;
    if (name === 'line-height' && settings.every(setting => px(at(setting)) !== null)) {
        const ratios = settings.map(setting => px(at(setting)) / px(all[setting].own['font-size']));
        if (ratios.every(ratio => Math.abs(ratio - ratios[0]) < 1e-3) && usual !== large) return round(ratios[0]);
    }
    const [a, b] = [px(usual), px(large)];
    if (a !== null && b !== null && Math.abs(a - b) > 0.01) {
        const basis = name === 'font-size' ? [px(parent('usual')), px(parent('large'))]
            : [px(all.usual.own['font-size']), px(all.large.own['font-size'])];
        if (Math.abs(a / basis[0] - b / basis[1]) < 2e-3) return `${round(b / basis[1])}em`;
    }
    if (name === 'font-weight' && usual !== unusual) {
        return usual === '700' && unusual === '400' ? 'bolder' : usual;
    }
    if (usual !== dark && (name.endsWith('color') || name === 'fill')) return `light-dark(${usual}, ${dark})`;
    return usual;
};

// Whether the sides of a box follow the way the text runs.
const flows = (box, all) => {
    const at = (setting, side) => all[setting].own[`${box}-${side}`];
    const turned = [['right', 'top'], ['left', 'bottom'], ['top', 'left'], ['bottom', 'right']];
    return turned.every(([now, before]) => at('vertical', now) === at('usual', before))
        && !turned.every(([now, before]) => at('usual', now) === at('usual', before));
};
const LOGICAL = ['margin', 'padding'].map(box => [`${box}-left`, `${box}-right`, `${box}-inline-start`, `${box}-inline-end`]);
const writable = [...known, ...LOGICAL.flatMap(([, , start, end]) => [start, end]),
    'margin-block-start', 'margin-block-end', 'padding-block-start', 'padding-block-end', 'min-inline-size'];

const declarations = all => {
    const set = {};
    for (const name of known) {
        const value = explain(name, all);
        if (value !== null) set[name] = value;
    }
    const least = [all.usual.own['min-width'], all.vertical.own['min-height']];
    if (least[0] === least[1] && least[0] !== 'auto') {
        delete set['min-width'];
        set['min-inline-size'] = least[0];
    }
    // Sides that follow the direction are logical.
    for (const box of ['margin', 'padding']) {
        if (!flows(box, all)) continue;
        for (const [side, name] of [['top', 'block-start'], ['bottom', 'block-end'], ['left', 'inline-start'], ['right', 'inline-end']]) {
            const [a, b] = [px(all.usual.own[`${box}-${side}`]), px(all.large.own[`${box}-${side}`])];
            if (a === 0) continue;
            const size = px(all.usual.own['font-size']);
            set[`${box}-${name}`] = a !== null && b !== null && a !== b ? `${round(a / size)}em` : all.usual.own[`${box}-${side}`];
        }
    }
    for (const [left, right, start, end] of LOGICAL) {
        if (flows(left.split('-')[0], all)) continue;
        const at = (setting, name) => all[setting].own[name];
        if (at('usual', left) === at('rtl', left) || at('rtl', left) !== at('usual', right)) continue;
        const size = px(all.usual.own['font-size']);
        for (const [name, side] of [[start, left], [end, right]]) {
            const [a, b] = [px(at('usual', side)), px(at('large', side))];
            const em = a !== null && b !== null && a !== b;
            set[name] = em ? `${round(a / size)}em` : at('usual', side);
        }
    }
    return set;
};

// What takes over the value of the element around it, though nothing says so: `inherit`, or, of a heading in a table, its
// place where that is not the initial one.
const TAKEN = {
    'vertical-align': 'sub', 'border-top-color': TINT, 'border-right-color': TINT, 'border-bottom-color': TINT,
    'border-left-color': TINT,
};
const takenOver = (host, set) => {
    if (host.pseudo || host.root) return;
    const follows = (name, odd) => {
        const outer = place(host.html, 'usual');
        const element = outer.querySelector('[data-it]');
        const before = getComputedStyle(element).getPropertyValue(name);
        element.parentElement.style.setProperty(name, odd);
        const after = getComputedStyle(element).getPropertyValue(name);
        outer.remove();
        return before !== odd && after === odd;
    };
    for (const [name, odd] of Object.entries(TAKEN)) {
        if (follows(name, odd)) set[name] = 'inherit';
    }
    if (set['text-align'] === 'center' && follows('text-align', 'right')) set['text-align'] = '-stilk-center';
};

// Which declarations the page cannot override.
const ODD = {
    'overflow-x': 'hidden', 'overflow-y': 'hidden', 'display': 'grid', 'white-space-collapse': 'preserve', 'unicode-bidi': 'plaintext',
    'text-wrap-mode': 'nowrap', 'user-select': 'all', 'align-items': 'end', 'resize': 'vertical', 'box-sizing': 'content-box',
    'direction': 'rtl', 'line-height': '99px', 'appearance': 'none', 'text-indent': '9px', 'position': 'fixed', 'cursor': 'grab',
    'writing-mode': 'vertical-rl', 'text-transform': 'lowercase', 'font-style': 'italic', 'overflow-wrap': 'anywhere',
    'min-height': '9px', 'min-width': '9px', 'max-width': '9px', 'letter-spacing': '9px', 'text-align': 'right', 'opacity': '.3',
};
// What the platform may keep of what it draws, be it that nothing of it is set.
const OF_BOXES = {
    ...Object.fromEntries(['top', 'right', 'bottom', 'left'].flatMap(side => [
        [`border-${side}-style`, 'dashed'], [`border-${side}-color`, 'rgb(1, 2, 3)'], [`padding-${side}`, '9px'],
    ])),
    ...Object.fromEntries(['top-left', 'top-right', 'bottom-left', 'bottom-right'].map(corner => [`border-${corner}-radius`, '9px'])),
    'border-image-source': 'linear-gradient(rgb(1, 2, 3), rgb(1, 2, 3))', 'border-image-slice': '7', 'border-image-width': '5',
    'border-image-outset': '3', 'border-image-repeat': 'round',
    'background-color': 'rgb(1, 2, 3)', 'font-size': '33px', 'color': 'rgb(1, 2, 3)',
};
const isControl = host => /^(button|input|textarea|select|meter|progress)/.test(host.selector);
const nativeRules = [];
const important = (host, set) => {
    const fixed = [];
    const native = [];
    const values = { ...set };
    for (const name of new Set([...Object.keys(set), ...Object.keys(isControl(host) ? OF_BOXES : {})])) {
        const odd = ODD[name] ?? (isControl(host) && OF_BOXES[name]);
        if (!odd || host.pseudo) continue;
        const outer = place(host.html, 'usual');
        const element = outer.querySelector('[data-it]');
        const before = getComputedStyle(element).getPropertyValue(name);
        element.style.setProperty(name, odd);
        const after = getComputedStyle(element).getPropertyValue(name);
        if (after === before && before !== odd) {
            values[name] ??= name.endsWith('color') ? 'currentcolor' : before;
            // It may be fixed for as long as the platform draws the element.
            element.style.setProperty('appearance', 'none');
            (getComputedStyle(element).getPropertyValue(name) === before ? fixed : native).push(name);
        }
        outer.remove();
    }
    if (native.length) nativeRules.push({ selector: host.selector, declarations: native.map(name => [name, values[name], true]) });
    // What it makes of its kind may be fixed where it is not: a list that shows several lines is a select too.
    const ofBase = nativeRules.find(rule => rule.selector === host.base);
    if (ofBase && ofBase.declarations.every(([name]) => !native.includes(name) && !fixed.includes(name))) {
        ofBase.selector += `:not(${host.selector})`;
    }
    return fixed;
};

const rules = [];
const bySelector = {};
const fixedBySelector = {};
const keptOut = {};
const bareRules = [];
// The root and the body are there already.
for (const host of HOSTS) {
    if (host.root) continue;
    const rest = inSettings(host.html, host.pseudo);
    const set = declarations(rest);
    takenOver(host, set);
    bySelector[host.selector] = set;
    const base = host.base ? bySelector[host.base] : {};
    const own = [];
    const fixed = important(host, set);
    const baseFixed = host.base ? fixedBySelector[host.base] ?? [] : [];
    for (const name of writable) {
        if (set[name] === base[name]) continue;
        if (baseFixed.includes(name) && !fixed.includes(name)) {
            // The base keeps out of this one.
            (keptOut[host.base] ??= {})[name] = [...((keptOut[host.base] ?? {})[name] ?? []), host.selector.startsWith(host.base) ? host.selector.slice(host.base.length) : host.selector];
            if (set[name] === undefined) continue;
        }
        own.push([name, set[name] ?? 'unset']);
    }
    fixedBySelector[host.selector] = fixed;
    // What is given up on one side of a box must not take what is said of the same side under its other name.
    const isSaid = ([, value]) => value !== 'unset';
    own.sort((one, other) => isSaid(one) - isSaid(other));
    const list = own.map(([name, value]) => [name, value, fixed.includes(name)]);
    if (list.length) rules.push({ selector: host.selector, declarations: list });
    // Without the native look: whether anything else follows from that.
    if (!host.pseudo && isControl(host)) {
        const bare = inSettings(host.html, null, element => element.style.setProperty('appearance', 'none'));
        const changed = declarations(bare);
        const differs = writable.filter(name => name !== 'appearance' && changed[name] !== set[name]);
        if (differs.length) {
            bareRules.push({ selector: host.selector, declarations: differs.map(name => [name, changed[name] ?? 'unset', false]) });
        }
    }
    if ((host.states || []).includes('disabled')) attribute(host, set, 'disabled');
    if ((host.states || []).includes('readonly')) attribute(host, set, 'readonly', '[readonly]');
    if ((host.states || []).includes('checked') && /checkbox|radio/.test(host.selector)) attribute(host, set, 'checked');
}

function attribute(host, rest, name, condition = `:${name}`) {
    const changed = declarations(inSettings(host.html, host.pseudo, element => element.setAttribute(name, '')));
    const list = writable.filter(property => changed[property] !== rest[property])
        .map(property => [property, changed[property] ?? 'unset', false]);
    if (!list.length) return;
    const selector = host.pseudo ? `${host.of}${condition}${host.pseudo}` : `${host.selector}${condition}`;
    rules.push({ selector, declarations: list });
}

for (const [base, names] of Object.entries(keptOut)) {
    const rule = rules.find(rule => rule.selector === base);
    for (const [name, selectors] of Object.entries(names)) {
        const declaration = rule.declarations.find(([known]) => known === name);
        rule.declarations = rule.declarations.filter(one => one !== declaration);
        rules.splice(rules.indexOf(rule) + 1, 0, { selector: `${base}:not(${selectors.join(', ')})`, declarations: [declaration] });
    }
}

const body = getComputedStyle(document.body);
rules.unshift({ selector: 'body', declarations: [['display', 'block', false], ...['top', 'right', 'bottom', 'left'].map(side => [`margin-${side}`, body.getPropertyValue(`margin-${side}`), false])] });
rules.unshift({ selector: 'html', declarations: [['display', 'block', false]] });

style.remove();
return { rules, bareRules, nativeRules, hosts: HOSTS.filter(host => host.states).map(({ selector, html, states }) => ({ selector, html, states })), known };
