//! The specimen in a real browser: ways of looking, trying and copying, the keyboard's path, the page's own contrast, ten
//! thousand cells; and `live`: a save repaints, an error comes and goes.

use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant, SystemTime, UNIX_EPOCH};

const TAB: &str = "\u{e004}";
const ENTER: &str = "\u{e007}";

/// How long an answer may take to become the wanted one: long enough for a slow machine, since it only ends what fails.
const PATIENCE: Duration = Duration::from_secs(90);

/// Helpers that the questions below are asked with.
const TOOLS: &str = "
    window.ask = {
        // Pictures of a control in a theme.
        root: (name, theme) => document.querySelectorAll(`[data-sheet='${name}'] > .theme`)[theme]?.shadowRoot,
        cell: (name, theme, row, column) => ask.root(name, theme)?.querySelectorAll('tbody tr')[row]?.children[column + 1],
        control: (name, theme, row, column) => ask.cell(name, theme, row, column)?.querySelector('.mount > *'),
        style: (element, property) => getComputedStyle(element).getPropertyValue(property),
    };";

struct Checks<'b> {
    browser: &'b Browser,
    failed: usize,
    held: usize,
}

impl Checks<'_> {
    fn run(&self, script: &str) -> Value {
        // What is not there yet is asked for again.
        self.browser.run(&format!("try {{ {script} }} catch (error) {{ return `${{error}}`; }}"), json!([]))
    }

    fn holds(&mut self, what: &str, script: &str) {
        self.is(what, script, &Value::Bool(true));
    }

    /// Asks until the answer is the wanted one, for a while: the page mounts what comes near.
    fn is(&mut self, what: &str, script: &str, wanted: &Value) {
        let started = Instant::now();
        let mut found = self.run(script);
        while found != *wanted && started.elapsed() < PATIENCE {
            std::thread::sleep(Duration::from_millis(50));
            found = self.run(script);
        }
        if found == *wanted {
            self.held += 1;
        } else {
            self.failed += 1;
            println!("specimen: {what}: {found} where {wanted} is wanted");
        }
    }

    fn open(&self, url: &str) {
        // The same document with another fragment would not be loaded again.
        self.browser.open("about:blank");
        self.browser.open(url);
        self.run(TOOLS);
    }
}

/// Looks at the sample's specimen; returns how much does not hold.
pub fn run(browser: &Browser, sample: &Path) -> usize {
    let work = tempfile::tempdir().expect("a folder");
    crate::copy(sample, work.path());
    stilk(work.path(), &["specimen"]);
    let url = format!("file://{}", work.path().join("dist/specimen.html").display());
    browser.emulate(&[]);
    let mut checks = Checks { browser, failed: 0, held: 0 };
    ways_of_looking(&mut checks, &url);
    room(&mut checks, &url);
    trying(&mut checks, &url, work.path());
    keyboard(&mut checks, &url);
    example_of_its_own_advice(&mut checks, &url);
    many_cells(&mut checks);
    live(&mut checks, work.path());
    nudge(&mut checks, work.path());
    println!("specimen: {} hold, {} do not", checks.held, checks.failed);
    checks.failed
}

fn stilk(folder: &Path, arguments: &[&str]) -> String {
    let mut command = Command::new(env!("CARGO_BIN_EXE_stilk"));
    let output = command.args(arguments).current_dir(folder).output().expect("the program runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    String::from_utf8(output.stdout).expect("text")
}

fn ways_of_looking(checks: &mut Checks, url: &str) {
    checks.open(&format!("{url}#control-button"));
    checks.is(
        "three themes side by side",
        "return document.querySelectorAll('[data-sheet=button] > .theme').length",
        &json!(3),
    );
    checks.holds(
        "a picture has its theme's fill",
        "return ask.style(ask.control('button', 1, 0, 0), 'background-color').startsWith('oklab(0.82 -0.06688')",
    );
    checks.holds(
        "a state is shown without a pointer",
        "return ask.style(ask.control('button', 0, 0, 1), 'background-color') !== ask.style(ask.control('button', 0, 0, 0), 'background-color')",
    );
    checks.is(
        "a figure that fails says so",
        "return [...ask.root('button', 1).querySelectorAll('.fails')].map(e => e.title)[0]",
        &json!("contrast 1.64 is too low: needs 4.5"),
    );
    checks.run("document.querySelector('input[name=theme][value=day]').click(); document.querySelector('input[name=theme][value=storm]').click();");
    checks.is("one theme", "return document.querySelectorAll('[data-sheet=button] > .theme').length", &json!(1));
    checks.is("the choice is in the address", "return location.hash", &json!("#control-button?theme=night"));
    let height = "return ask.control('button', 0, 0, 0).getBoundingClientRect().height";
    let before = checks.run(height).as_f64().unwrap_or_default();
    checks.run("document.querySelector('input[name=density][value=tight]').click()");
    checks
        .holds("density", &format!("return ask.control('button', 0, 0, 0).getBoundingClientRect().height < {before}"));

    // A view that was sent.
    checks.open(&format!(
        "{url}#control-switch?theme=storm&density=tight&dir=rtl&zoom=2&vision=deutan&spacing=wide&boxes=24"
    ));
    checks.is("its theme", "return ask.root('switch', 0).querySelector('th.theme').textContent", &json!("storm tight"));
    checks.is("its direction", "return ask.style(ask.control('switch', 0, 0, 0), 'direction')", &json!("rtl"));
    checks.is("its zoom", "return ask.style(ask.cell('switch', 0, 0, 0).querySelector('.mount'), 'zoom')", &json!("2"));
    checks.is(
        "its eyes",
        "return ask.style(document.querySelector('[data-sheet=switch]'), 'filter')",
        &json!("url(\"#deutan\")"),
    );
    checks.holds(
        "its text spacing",
        "const style = getComputedStyle(ask.control('switch', 0, 0, 0)); return Math.abs(parseFloat(style.letterSpacing) - .12 * parseFloat(style.fontSize)) < .01",
    );
    checks.holds("its targets", "return ask.root('switch', 0).querySelectorAll('.target').length > 0");
    checks.holds(
        "it is where it was",
        "const top = document.getElementById('control-switch').getBoundingClientRect().top; return top > 0 && top < 250",
    );
    checks.open(&format!("{url}#control-button?motion=reduced"));
    checks.is(
        "reduced motion",
        "return ask.style(ask.control('button', 0, 0, 0), 'transition-duration')",
        &json!("0s"),
    );
    checks.open(&format!("{url}#control-switch?motion=slow&width=320&boxes=boxes"));
    checks.is(
        "rows as wide as is asked for",
        "return ask.cell('switch', 0, 0, 0).querySelector('.mount').offsetWidth",
        &json!(320),
    );
    checks.is(
        "outlines of boxes",
        "return ask.style(ask.control('switch', 0, 0, 0), 'outline-style')",
        &json!("dashed"),
    );
    checks.run("window.turned = ask.control('switch', 0, 0, 0); turned.style.transition = 'opacity 10s'; getComputedStyle(turned).opacity; turned.style.opacity = 0;");
    checks.is("slow motion", "return turned.getAnimations().map(motion => motion.playbackRate)[0]", &json!(0.1));
    checks.open(&format!("{url}#control-switch"));
    checks.run("dispatchEvent(new Event('beforeprint'))");
    checks.holds(
        "on paper every picture is there and fits the sheet",
        "return [...document.querySelectorAll('[data-sheet] > .theme')].every(host => ![...host.shadowRoot.querySelectorAll('.mount')].some(mount => mount.style.contentVisibility)
           && (host.shadowRoot.querySelector('table')?.getBoundingClientRect().width ?? 0) <= 680)",
    );
    checks.run("dispatchEvent(new Event('afterprint'))");
    checks.holds("and large again after it", "return ask.root('switch', 0).firstElementChild.style.zoom === ''");
    checks.open(&format!("{url}#control-button?only=findings"));
    let shown =
        "return [...document.querySelectorAll('section.control')].filter(e => !e.hidden).map(e => e.dataset.control)";
    checks.is(
        "a finding stands with each control that it reaches",
        "return [...document.querySelectorAll('section.control ul.findings')].map(list => list.closest('section').dataset.control)",
        &json!(["button", "menu-item", "old-tag"]),
    );
    checks.is("only what has findings", shown, &json!(["button", "menu-item", "old-tag"]));
    checks.holds(
        "only rows that have some",
        "return [...ask.root('button', 1).querySelectorAll('tbody tr')].every(row => row.hidden !== !!row.querySelector('.fails'))",
    );
    checks.open(&format!("{url}#?find=segm"));
    checks.is("search", shown, &json!(["segment", "segmented"]));
}

fn room(checks: &mut Checks, url: &str) {
    checks.open(&format!("{url}#control-button-row"));
    let named = |name: &str| {
        format!(
            "[...ask.root('{name}', 1).querySelectorAll('.broad-pictures > .name')].map(name => name.textContent).join()"
        )
    };
    checks.is(
        "what takes the room in ways of its own is as wide as the sheet",
        &format!("return {}", named("button-row")),
        &json!("default,centre,end,apart,wide,column"),
    );
    checks.holds(
        "as wide as what is seen of the sheet, not as its table",
        "const row = ask.root('button-row', 1).querySelector('.broad-pictures > .mount').getBoundingClientRect(), sheet = document.querySelector('[data-sheet=button-row]'); return row.width > sheet.clientWidth - 40 && row.width <= sheet.clientWidth",
    );
    checks.open(&format!("{url}#control-segmented"));
    checks.is(
        "what paints no more where there is more room is drawn once",
        "return ask.root('segmented', 0).querySelector('.broad-pictures')",
        &Value::Null,
    );
    checks.open(&format!("{url}#control-field"));
    checks.is("filling beside fitting", &format!("return {}", named("field")), &json!("default,fitting,suffixed"));
    checks.open(&format!("{url}#control-radio-group"));
    checks.is("what a cell breaks into lines", &format!("return {}", named("radio-group")), &json!("default,inline"));
    checks.open(&format!("{url}#control-button"));
    checks.holds(
        "the last state is reached by scrolling, and the first column stays",
        "const sheet = document.querySelector('[data-sheet=button]'); sheet.scrollLeft = 1e6;
         const edge = sheet.getBoundingClientRect(), row = ask.root('button', 0).querySelectorAll('tbody tr')[0];
         const name = row.querySelector('th').getBoundingClientRect(), last = row.lastElementChild.firstElementChild.getBoundingClientRect();
         return sheet.scrollLeft > 100 && last.right <= edge.right && Math.abs(name.left - edge.left) < 2",
    );
    checks.holds(
        "nothing shows through the first column",
        "const surface = getComputedStyle(ask.root('button', 0).firstElementChild).backgroundColor; return getComputedStyle(ask.root('button', 0).querySelector('tbody th')).backgroundImage.startsWith(`linear-gradient(to right, ${surface} `)",
    );
    checks.open(&format!("{url}#control-segment"));
    checks.holds(
        "a picture of what stands in another says which of it is meant",
        "const picture = ask.cell('segment', 0, 0, 1).querySelector('.mount'); return picture.querySelectorAll('[data-subject]').length === 1 && picture.querySelector('[data-subject]') !== picture.firstElementChild",
    );
    checks.open(&format!("{url}#control-radio-group"));
    checks.holds(
        "a picture that is drawn again takes no choice from the first",
        "const group = ask.root('radio-group', 0).querySelector('td > .mount'); return group.querySelector('input[checked]').checked",
    );
}

fn trying(checks: &mut Checks, url: &str, folder: &Path) {
    checks.open(&format!("{url}#control-button"));
    checks.holds("something to try", "return !!document.querySelector('[data-try=button] .theme')");
    // Markup is put together in the page: it must be what the command prints.
    for (case, control, host, options) in [
        ("button", "button", 0, json!({})),
        (
            "button.kelp.outline.small.before",
            "button",
            0,
            json!({"color": "kelp", "voice": "outline", "size": "small", "icon": "before"}),
        ),
        ("button@a.large", "button", 1, json!({"size": "large"})),
        ("button@submit.full", "button", 2, json!({"full": "full"})),
        ("field", "field", 0, json!({})),
        ("menu", "menu", 0, json!({})),
        ("radio-group", "radio-group", 0, json!({})),
        ("select", "select", 0, json!({})),
    ] {
        let wanted = stilk(folder, &["markup", case]);
        let script = format!(
            "const area = document.querySelector('[data-try={control}]'), options = {options};
             if (!area.stand) {{ area.scrollIntoView(); return null; }}
             for (const label of area.querySelectorAll('.choices label')) {{
                 const name = label.querySelector('span').textContent, select = label.querySelector('select');
                 if (name === 'on') select.value = '{host}';
                 else select.value = options[name] ?? select.dataset.standard;
             }}
             area.stand();
             return area.querySelector('code').textContent;"
        );
        checks.is(&format!("the markup of {case}"), &script, &json!(wanted.trim_end()));
    }
    checks.run("document.querySelector('[data-try=checkbox]').scrollIntoView()");
    let native = "document.querySelector('[data-try=checkbox] .theme').shadowRoot.querySelector('input')";
    checks.holds(
        "the control itself",
        &format!("return !!document.querySelector('[data-try=checkbox] .theme') && {native}.matches(':not(:checked)')"),
    );
    checks.holds("it can be used", &format!("{native}.click(); return {native}.checked"));
    checks.browser.devtools(
        "Browser.grantPermissions",
        json!({ "permissions": ["clipboardReadWrite", "clipboardSanitizedWrite"] }),
    );
    checks.run("document.querySelector('[data-try=button]').scrollIntoView(); document.querySelector('[data-try=button] details').open = true; document.querySelector('[data-try=button] .copy').click()");
    checks.holds("copying answers", "return document.querySelector('[data-try=button] .copy').textContent !== 'Copy'");
}

fn keyboard(checks: &mut Checks, url: &str) {
    checks.open(url);
    checks.browser.press(&[TAB]);
    checks.is("the first stop skips to the controls", "return document.activeElement.className", &json!("skip"));
    checks.browser.press(&[ENTER]);
    checks.is("it leads there", "return document.activeElement.closest('[id]').id", &json!("controls"));
    checks.browser.press(&[TAB]);
    checks.is("then a variant to try", "return document.activeElement.localName", &json!("select"));
    checks.holds(
        "pictures are no stops",
        "ask; const names = new Set(); for (const host of document.querySelectorAll('[data-sheet] > .theme')) for (const mount of host.shadowRoot.querySelectorAll('.mount')) names.add(mount.inert); return names.size === 1 && names.has(true)",
    );
    checks.holds(
        "every stop on the page shows its focus and has a name",
        "return [...document.querySelectorAll('a, button, select, input, summary, [tabindex=\"0\"]')].filter(e => e.checkVisibility()).every(e => {
            const label = e.getAttribute('aria-label') ?? e.closest('label')?.textContent ?? e.textContent;
            e.focus();
            const style = getComputedStyle(e);
            return label.trim() !== '' && (style.outlineStyle !== 'none' || style.outlineWidth !== '0px');
        })",
    );
}

fn example_of_its_own_advice(checks: &mut Checks, url: &str) {
    const CONTRAST: &str = "
        const canvas = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true });
        const rgb = text => { canvas.clearRect(0, 0, 1, 1); canvas.fillStyle = text; canvas.fillRect(0, 0, 1, 1); return [...canvas.getImageData(0, 0, 1, 1).data]; };
        const light = ([r, g, b]) => [r, g, b].map(c => c / 255).map(c => c <= .04045 ? c / 12.92 : ((c + .055) / 1.055) ** 2.4).reduce((sum, c, i) => sum + c * [.2126, .7152, .0722][i], 0);
        const ratio = (a, b) => { const [x, y] = [light(a), light(b)].sort((a, b) => b - a); return (x + .05) / (y + .05); };
        const behind = element => { for (let at = element; at; at = at.parentElement) { const color = rgb(getComputedStyle(at).backgroundColor); if (color[3] === 255) return color; } return [255, 255, 255]; };
        const texts = [...document.querySelectorAll('body *')].filter(e => e.checkVisibility() && !e.closest('.theme, script, svg, .swatch, .sr, .skip')
            && [...e.childNodes].some(n => n.nodeType === 3 && n.data.trim()));
        const low = texts.filter(e => ratio(rgb(getComputedStyle(e).color), behind(e)) < 4.5);
        return texts.length > 100 ? low.map(e => e.outerHTML.slice(0, 80)) : 'too few texts';";
    for scheme in ["light", "dark"] {
        checks.browser.emulate(&[("prefers-color-scheme", scheme)]);
        checks.open(url);
        checks.is(&format!("the page's own text in {scheme}"), CONTRAST, &json!([]));
    }
    checks.browser.emulate(&[]);
    checks.holds(
        "landmarks and one first heading",
        "return ['header', 'nav[aria-label]', 'main', 'form[aria-label]'].every(name => document.querySelector(name)) && document.querySelectorAll('h1').length === 1",
    );
    checks.holds(
        "headings leave out no level",
        "const levels = [...document.querySelectorAll('h1, h2, h3, h4')].map(e => Number(e.localName[1])); return levels.every((level, i) => i === 0 || level <= levels[i - 1] + 1)",
    );
    checks.holds(
        "ids are there once",
        "const ids = [...document.querySelectorAll('[id]')].map(e => e.id); return new Set(ids).size === ids.length",
    );
    // Narrow screens scroll in one direction.
    let metrics = json!({ "width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": false });
    checks.browser.devtools("Emulation.setDeviceMetricsOverride", metrics);
    checks.open(url);
    checks.is("390px wide", "return document.documentElement.scrollWidth", &json!(390));
    checks.browser.devtools("Emulation.clearDeviceMetricsOverride", json!({}));
}

/// Ten thousand cells in one control: how long frames take while they are scrolled through.
fn many_cells(checks: &mut Checks) {
    let work = tempfile::tempdir().expect("a folder");
    let folder = work.path();
    std::fs::create_dir(folder.join("controls")).expect("a folder");
    let options: String = (0..480).map(|i| format!("    tint-{i} {{ --fill: oklch(0.4 0.1 {i}deg); }}\n")).collect();
    let sheet = format!(
        "@control button {{\n  --fill: black; background: none; background-color: var(--fill); color: white; padding: 8px 16px; border: 0;\n
           @state hover {{ opacity: .9; }} @state focus {{ outline: 2px solid; }} @state active {{ opacity: .8; }} @state selected {{ font-weight: 700; }}
           @state busy {{ opacity: .6; }} @state disabled {{ opacity: .5; }}\n  @axis tint {{\n{options}  }}\n}}\n"
    );
    let contexts = ["day", "dusk", "night"].map(|name| format!("\"{name}\": []")).join(", ");
    let resolver = format!(
        "{{ \"version\": \"2025.10\", \"sets\": {{ \"base\": {{ \"sources\": [{{ \"page\": {{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"srgb\", \"components\": [1, 1, 1] }} }} }}] }} }},
           \"modifiers\": {{ \"theme\": {{ \"contexts\": {{ {contexts} }}, \"default\": \"day\" }} }},
           \"resolutionOrder\": [{{ \"$ref\": \"#/sets/base\" }}, {{ \"$ref\": \"#/modifiers/theme\" }}] }}\n"
    );
    for (name, text) in [
        (
            "stilk.toml",
            "[system]\nname = \"Many\"\nprefix = \"many\"\ntokens = \"many.resolver.json\"\n\n[surfaces]\npage = \"{page}\"\n",
        ),
        ("many.resolver.json", &resolver),
        (
            "controls/button.html",
            "<button type=\"button\"><span part=\"label\"><slot>Cast off</slot></span></button>\n",
        ),
        ("controls/button.stilk", &sheet),
    ] {
        std::fs::write(folder.join(name), text).expect("a file");
    }
    stilk(folder, &["specimen"]);
    let opened = Instant::now();
    checks.open(&format!("file://{}#control-button", folder.join("dist/specimen.html").display()));
    checks.is(
        "ten thousand cells",
        "return document.querySelectorAll('[data-sheet=button] > .theme').length",
        &json!(3),
    );
    let ready = opened.elapsed();
    let cells = checks.run("let cells = 0; for (const host of document.querySelectorAll('[data-sheet=button] > .theme')) cells += host.shadowRoot.querySelectorAll('td').length; return cells");
    checks.run(
        "window.frames_ = []; let last = performance.now(), at = 0;
         const step = now => { frames_.push(now - last); last = now; scrollBy({ top: 240, behavior: 'instant' }); if (++at < 60) requestAnimationFrame(step); else window.done_ = true; };
         requestAnimationFrame(step);",
    );
    checks.holds("scrolling through them ends", "return window.done_ === true");
    let frames = checks.run("return frames_.slice(1).sort((a, b) => a - b)");
    let frames: Vec<f64> =
        frames.as_array().map(|all| all.iter().filter_map(Value::as_f64).collect()).unwrap_or_default();
    let at = |share: f64| frames.get((frames.len() as f64 * share) as usize).copied().unwrap_or_default();
    println!(
        "specimen: {cells} cells are there after {:.1} s; frames while scrolling: median {:.1} ms, 95% within {:.1} ms",
        ready.as_secs_f64(),
        at(0.5),
        at(0.95)
    );
    // A value of all of them is pulled at.
    let (_program, address) = serve(folder);
    checks.open(&format!("{address}#control-button"));
    checks.holds("they are served", "return !!document.querySelector('.nudge-switch')");
    checks.run(PANEL);
    checks.run("document.querySelector('.nudge-switch').click()");
    checks.holds("a fill is offered", "return panel.open('background-color') && stilkLive.nudge.ready === true");
    frames_while_pulling(checks, "ten thousand cells");
    checks.holds(
        "and is painted",
        "return ask.style(ask.control('button', 0, 0, 0), 'background-color').startsWith('oklch')",
    );
}

pub struct Program(Child);

impl Drop for Program {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Serves a project as long as the program lives.
pub fn serve(folder: &Path) -> (Program, String) {
    let mut command = Command::new(env!("CARGO_BIN_EXE_stilk"));
    let child = command.args(["live", "--port", "0"]).current_dir(folder).stdout(Stdio::piped()).spawn();
    let mut program = Program(child.expect("the program starts"));
    let mut line = String::new();
    BufReader::new(program.0.stdout.as_mut().expect("its output")).read_line(&mut line).expect("its address");
    let address = line.split(' ').next().expect("an address").trim_end().to_owned();
    (program, address)
}

fn live(checks: &mut Checks, folder: &Path) {
    let (_program, address) = serve(folder);
    checks.open(&format!("{address}#control-button?theme=day"));
    checks.holds("the page is mounted", "return !!ask.control('button', 0, 0, 1)");
    checks.run("const select = [...document.querySelectorAll('[data-try=button] select')].find(s => [...s.options].some(o => o.value === 'kelp')); select.value = 'kelp'; select.dispatchEvent(new Event('change')); select.focus();");
    std::thread::sleep(Duration::from_millis(800));
    let file = folder.join("controls/button.stilk");
    let sheet = std::fs::read_to_string(&file).expect("the sheet");
    let scrolled = checks.run("return scrollY");
    let mut took = Vec::new();
    for shade in [41, 42, 43, 44, 45] {
        let before = checks.run("return stilkLive.repaints").as_u64().unwrap_or_default();
        let saved = SystemTime::now().duration_since(UNIX_EPOCH).expect("a time").as_secs_f64() * 1000.0;
        std::fs::write(&file, sheet.replace("--shade: 16%", &format!("--shade: {shade}%"))).expect("a save");
        checks.holds("a save repaints", &format!("return stilkLive.repaints > {before}"));
        took.push(checks.run("return stilkLive.repainted").as_f64().unwrap_or_default() - saved);
        checks.holds("and brings new figures", &format!("return (stilkLive.pages ?? 0) > {}", took.len() - 1));
        std::thread::sleep(Duration::from_millis(500));
    }
    took.sort_by(f64::total_cmp);
    println!(
        "specimen: save to repaint {:.0} ms in the median of {} saves, {:.0} ms at most",
        took[2],
        took.len(),
        took[4]
    );
    checks.is("the place on the page stays", "return scrollY", &scrolled);
    checks.is("so does the way of looking", "return location.hash", &json!("#control-button?theme=day"));
    checks.is("so does the focus", "return document.activeElement.value", &json!("kelp"));
    checks.holds("what is changed is marked", "return ask.cell('button', 0, 0, 1).classList.contains('changed')");
    checks.holds("what is not is not", "return !ask.cell('button', 0, 0, 0).classList.contains('changed')");
    checks.holds("with its figure before", "return ask.cell('button', 0, 0, 1).textContent.includes(' → ')");
    std::fs::write(&file, sheet.replace("--shade: 16%;", "colr: red;")).expect("a save");
    let overlay = "document.getElementById('stilk-errors')";
    checks.holds(
        "an error comes up",
        &format!("return {overlay}.checkVisibility() && {overlay}.innerText.includes('there is no property `colr`')"),
    );
    std::fs::write(&file, &sheet).expect("a save");
    checks.holds("and goes when it is mended", &format!("return !{overlay}.checkVisibility()"));
}

/// Helpers that the panel is asked with.
const PANEL: &str = "
    window.panel = {
        value: name => [...document.querySelectorAll('#nudge .value')].find(value => value.firstChild.textContent === name),
        open: name => { const value = panel.value(name); if (value.getAttribute('aria-expanded') !== 'true') { stilkLive.nudge.ready = false; value.click(); } return true; },
        choose: words => {
            const found = [...document.querySelectorAll('#nudge .spots:not([hidden]) .choice')].find(choice => choice.textContent.startsWith(words));
            const input = found.querySelector('input');
            if (!input.checked) { stilkLive.nudge.ready = false; input.click(); }
            return true;
        },
        type: text => { const field = document.querySelector('#nudge .as-text'); field.value = text; field.dispatchEvent(new Event('change')); return true; },
        press: words => { [...document.querySelectorAll('#nudge button')].find(button => button.textContent === words).click(); return true; },
        pick: (name, value) => {
            const label = [...document.querySelectorAll('#nudge .where label')].find(label => label.firstChild.textContent === name);
            const select = label.querySelector('select');
            select.value = [...select.options].find(option => option.textContent === value).value;
            stilkLive.nudge.asked = stilkLive.nudge.looked;
            select.dispatchEvent(new Event('change'));
            return true;
        },
    };";

/// Pulls at the slider of the editor that is open, a step each frame, and prints what a frame takes.
fn frames_while_pulling(checks: &mut Checks, what: &str) {
    checks.run(
        "window.frames = []; window.pulled = false; const slider = document.querySelector('#nudge .editor input[type=range]'); let last = 0, step = 0; \
         const pull = now => { if (last) frames.push(now - last); last = now; slider.value = .4 + (step % 40) / 200; slider.dispatchEvent(new Event('input')); \
         if (++step < 90) requestAnimationFrame(pull); else { slider.dispatchEvent(new Event('change')); window.pulled = true; } }; requestAnimationFrame(pull)",
    );
    checks.holds("pulling ends", "return window.pulled");
    let frames = checks.run("return frames.sort((a, b) => a - b)");
    let frames: Vec<f64> = frames.as_array().into_iter().flatten().filter_map(Value::as_f64).collect();
    if let (Some(median), Some(most)) = (frames.get(frames.len() / 2), frames.get(frames.len() * 19 / 20)) {
        println!(
            "specimen: frames while pulling at a colour of {what}: median {median:.1} ms, 95% within {most:.1} ms"
        );
    }
}

/// Values set by hand: each kind pulled at, put back, kept; files compared byte by byte; a broken source and another's change meanwhile.
fn nudge(checks: &mut Checks, folder: &Path) {
    let read = |file: &str| std::fs::read_to_string(folder.join(file)).expect("a source");
    let base = read("tokens/base.tokens.json");
    let day = read("tokens/day.tokens.json");
    let sheet = read("controls/button.stilk");
    let (_program, address) = serve(folder);
    checks.open(&format!("{address}#control-button"));
    checks.holds("the page is mounted", "return !!ask.control('button', 0, 0, 0)");
    checks.run(PANEL);
    let ready = |checks: &mut Checks, what: &str| checks.holds(what, "return stilkLive.nudge.ready === true");
    checks.run("document.querySelector('.nudge-switch').focus()");
    checks.browser.press(&[ENTER]);
    checks.holds("the panel opens by key", "return !!panel.value('background-color')");
    checks.holds(
        "beside the pictures",
        "return document.querySelector('main').getBoundingClientRect().right <= document.querySelector('#nudge').getBoundingClientRect().left + 1",
    );
    // By pointer: what lies under it in a picture.
    checks.run("document.querySelector('[data-sheet=button]').scrollIntoView({ block: 'start' }); stilkLive.nudge.asked = stilkLive.nudge.looked");
    std::thread::sleep(Duration::from_millis(500));
    checks.run("ask.control('button', 0, 1, 1).setAttribute('data-under', ''); window.at = ask.control('button', 0, 1, 1).getBoundingClientRect(); document.elementFromPoint(at.x + 6, at.y + 6).shadowRoot.elementFromPoint(at.x + 6, at.y + 6).dispatchEvent(new MouseEvent('click', { bubbles: true, composed: true, clientX: at.x + 6, clientY: at.y + 6 }))");
    checks.holds("a click in a picture chooses", "return stilkLive.nudge.looked > stilkLive.nudge.asked");
    checks.holds(
        "the case is named",
        "return document.querySelector('#nudge .note').textContent.startsWith('button.kelp:hover in day')",
    );
    for (name, value) in [("variant", "default"), ("state", "rest")] {
        checks.run(&format!("panel.pick('{name}', '{value}')"));
        checks.holds("a choice by key is looked up", "return stilkLive.nudge.looked > stilkLive.nudge.asked");
    }
    checks.holds("what it reaches is told", "return panel.open('background-color') && /cases in 16 controls/.test(document.querySelector('#nudge .chosen')?.textContent)");
    ready(checks, "where the colour stands is found");
    checks.holds("in the page's own sheets", "return stilkLive.nudge.spots > 0");
    let paint = "ask.style(ask.control('button', 0, 0, 0), 'background-color')";
    let was = checks.run(&format!("return {paint}"));
    // The slider, by keys: each step is painted.
    checks.run("document.querySelector('#nudge .editor input[type=range]').focus()");
    checks.browser.press(&["\u{e014}", "\u{e014}", "\u{e014}"]);
    checks.holds("pulling repaints", &format!("return {paint} !== {was}"));
    checks.holds(
        "and says which lightnesses pass",
        "return /pass(es)? with all \\d+ colours/.test(document.querySelector('#nudge .editor .note').textContent)",
    );
    frames_while_pulling(checks, "the sample");
    checks.run("panel.type('oklch(0.8 0.1 232)')");
    checks.holds("what would fail is told", "return (stilkLive.nudge.outcome?.come.length ?? 0) > 0");
    checks.holds("in figures too", "return ask.cell('button', 0, 0, 0).textContent.includes(' → ✗ ')");
    assert_eq!(read("tokens/day.tokens.json"), day, "nothing is written before it is asked for");
    checks.browser.press(&["\u{e00c}"]);
    checks.is("escape puts it back", &format!("return {paint}"), &was);
    checks.holds("and nothing is set", "return stilkLive.nudge.changes.length === 0");
    checks.run("panel.press('Undo')");
    checks
        .holds("which can be taken back", &format!("return stilkLive.nudge.changes.length === 1 && {paint} !== {was}"));
    checks.run("panel.press('Put back')");
    checks.is("and put back", &format!("return {paint}"), &was);
    // A length, in the unit of its file, kept.
    checks.holds("a corner is offered", "return panel.open('border-start-start-radius') && stilkLive.nudge.ready");
    checks.run("panel.type('12px')");
    checks.is(
        "it is painted",
        "return ask.style(ask.control('button', 0, 0, 0), 'border-top-left-radius')",
        &json!("12px"),
    );
    checks.run("panel.press('Keep it')");
    checks.holds("it is kept", "return stilkLive.nudge.kept === 1");
    let wanted =
        base.replacen("\"control\": { \"$value\": { \"value\": 8,", "\"control\": { \"$value\": { \"value\": 12,", 1);
    assert!(wanted != base && read("tokens/base.tokens.json") == wanted, "nothing but the number is another one");
    checks.holds("the page comes anew", "return (stilkLive.pages ?? 0) > 0");
    // A word, a time and a curve.
    checks.holds(
        "a word is offered",
        "return panel.open('cursor') && stilkLive.nudge.ready && panel.choose('the declaration cursor')",
    );
    ready(checks, "its place is found");
    // A page that comes anew meanwhile has it closed again.
    checks.holds(
        "as a list",
        "return panel.open('cursor') && panel.choose('the declaration cursor') && document.querySelectorAll('#nudge .editor select option').length > 10",
    );
    ready(checks, "what paints it is found");
    checks.run("const word = document.querySelector('#nudge .editor select'); word.value = 'help'; word.dispatchEvent(new Event('change'))");
    checks.is("the word is painted", "return ask.style(ask.control('button', 0, 0, 0), 'cursor')", &json!("help"));
    // Broken sources meanwhile: nothing is written.
    std::fs::write(folder.join("controls/button.stilk"), sheet.replace("cursor: pointer", "curser: pointer"))
        .expect("a save");
    checks.holds("an error comes up", "return document.getElementById('stilk-errors').checkVisibility()");
    checks.run("panel.press('Keep it')");
    checks.holds(
        "and nothing is kept",
        "return /hold errors by now/.test(document.querySelector('#nudge .made').textContent)",
    );
    std::fs::write(folder.join("controls/button.stilk"), &sheet).expect("a save");
    checks.holds("it goes", "return !document.getElementById('stilk-errors').checkVisibility()");
    checks.run("panel.press('Keep it')");
    checks.holds("then it is", "return stilkLive.nudge.kept === 2");
    assert_eq!(read("controls/button.stilk"), sheet.replacen("cursor: pointer", "cursor: help", 1));
    std::fs::write(folder.join("controls/button.stilk"), &sheet).expect("a save");
    std::fs::write(folder.join("tokens/base.tokens.json"), &base).expect("a save");
    // At the width of a telephone the panel lies below, and all pictures can be brought above it.
    checks.browser.devtools(
        "Emulation.setDeviceMetricsOverride",
        json!({ "width": 390, "height": 800, "deviceScaleFactor": 1, "mobile": false }),
    );
    checks.holds("a narrow panel takes the lower half", "const box = document.querySelector('#nudge').getBoundingClientRect(); return box.width === innerWidth && box.top >= innerHeight * .4");
    checks.holds("nothing in it is wider than it", "return document.querySelector('#nudge').scrollWidth <= innerWidth");
    checks.browser.devtools("Emulation.clearDeviceMetricsOverride", json!({}));
}
