// The plant floor as a page of the control port: a stand-in for hands and eyes at the machine, no part of the product. It asks
// the control port for all units twice a second and shows the chosen one.

const STYLE = `
  :root { color-scheme: light dark; font: 16px/1.4 system-ui, sans-serif; }
  body { margin: 0; display: grid; grid-template-columns: 15rem 1fr; min-height: 100vh; }
  nav { border-right: 1px solid #8886; padding: 0.75rem; overflow: auto; max-height: 100vh; position: sticky; top: 0; box-sizing: border-box; }
  nav input { width: 100%; box-sizing: border-box; font: inherit; padding: 0.4rem; margin-bottom: 0.5rem; }
  nav a { display: block; padding: 0.35rem 0.4rem; color: inherit; text-decoration: none; border-radius: 4px; }
  nav a[aria-current] { background: #8883; font-weight: 600; }
  main { padding: 1rem 1.5rem; max-width: 60rem; }
  h1 { font-size: 1.3rem; margin: 0 0 0.25rem; }
  h2 { font-size: 1rem; margin: 1.4rem 0 0.4rem; }
  .now { font-size: 1.6rem; font-weight: 600; margin: 0.5rem 0; }
  .row { display: flex; flex-wrap: wrap; align-items: center; gap: 0.5rem; padding: 0.3rem 0; border-top: 1px solid #8884; }
  .row > span:first-child { width: 18rem; }
  button { font: inherit; min-height: 2.75rem; min-width: 4.5rem; padding: 0 0.9rem; }
  button[aria-pressed='true'] { outline: 3px solid; outline-offset: -3px; font-weight: 600; }
  input[type='range'] { width: 16rem; }
  ul { columns: 2; padding: 0; list-style: none; }
  label { display: block; padding: 0.2rem 0; }
  @media (max-width: 700px) { body { display: block; } nav { position: static; max-height: 12rem; } ul { columns: 1; } }
`;

const SCRIPT = `
  const place = document.querySelector('main');
  const list = document.querySelector('nav div');
  const field = document.querySelector('nav input');
  let units = [];
  let told = '';
  const chosen = () => units.find((unit) => String(unit.serial) === location.hash.slice(1));
  const make = (tag, properties, ...children) => {
    const made = Object.assign(document.createElement(tag), properties);
    made.append(...children);
    return made;
  };
  const ask = async (body, action = '', method = 'PATCH') => {
    const answer = await fetch('/units/' + chosen().serial + action, { method, body: JSON.stringify(body) });
    if (!answer.ok) alert((await answer.json()).detail);
    await look();
  };
  const button = (text, pressed, onclick) => {
    const made = make('button', { textContent: text, onclick });
    if (pressed !== null) made.setAttribute('aria-pressed', String(pressed));
    return made;
  };
  const row = (text, ...rest) => make('div', { className: 'row' }, make('span', { textContent: text }), ...rest);
  function swapRow() {
    const fields = ['Model', 'Rating', 'Serial number', 'Firmware'].map((name, at) => {
      const made = make('input', { size: 14, placeholder: ['halvern-hn64@1', 'HN64-22', '6420811', '207'][at] });
      made.setAttribute('aria-label', name);
      return made;
    });
    const swap = async () => {
      const [dictionary, rating, serial, firmware] = fields.map(({ value }) => value.trim());
      const spare = { dictionary, rating, serial: Number(serial), firmware: Number(firmware) };
      await ask(spare, '/swap', 'POST');
      if (units.some((unit) => unit.serial === spare.serial)) location.hash = serial;
    };
    return row('Comes out of its box', ...fields, button('Put it in', null, swap));
  }
  const state = ({ supplied, running, report }) => {
    if (!supplied) return 'No supply';
    if (report && report.fault) return 'Fault: ' + report.fault;
    if (report && report.locked) return 'Locked: safe torque off is open';
    if (running) return 'Turns' + (report && report.runs ? (report.reverse ? ' in reverse' : ' forward') : '');
    return 'Stands';
  };
  const rounded = (value, places) => Number(value).toFixed(places);
  const shown = ({ seen: { frequency, speed, current, torque, busVoltage, loopActual } }) =>
    [rounded(frequency, 2) + ' Hz', rounded(speed, 0) + ' rpm', rounded(current, 2) + ' A', rounded(torque, 0) + ' % torque',
      rounded(busVoltage, 0) + ' V bus', 'actual value at ' + rounded(loopActual * 100, 1) + ' % of its signal'].join(' · ');
  const HAPPENINGS = [
    ['uncoupled', 'Motor uncoupled'], ['stuck', 'Something is stuck in the machine'], ['mainsPhaseLost', 'A phase of the mains is lost'],
    ['motorPhaseLost', 'A phase of the motor cable is open'], ['earthed', 'Motor cable has an earth fault'], ['dip', 'The mains dips'],
  ];
  function crossRow(unit) {
    const names = Object.entries(unit.joined).filter(([, ends]) => ends.some((end) => !end.includes(':'))).map(([name]) => name);
    const field = (label) => {
      const made = make('select', {}, ...names.map((name) => make('option', { textContent: name + ': ' + unit.joined[name].join(' to '), value: name })));
      made.setAttribute('aria-label', label);
      return made;
    };
    const [one, other] = [field('One wire'), field('The other wire')];
    return row('Two wires change their terminals', one, other, button('Change', null, () => ask({ cross: [one.value, other.value] })));
  }
  function deviceRow(unit, device) {
    const at = unit.devices[device.name] ?? 0;
    const work = (to) => () => ask({ devices: { [device.name]: to } });
    const name = device.name + (device.what ? ', ' + device.what : '');
    if (device.places) return row(name, ...device.places.map((_, place) => button(String(place), at === place, work(place))));
    if (device.signal || device.kind === 'potentiometer') {
      const slider = make('input', { type: 'range', min: 0, max: 1, step: 0.01, value: at });
      slider.setAttribute('aria-label', name);
      slider.onchange = () => work(Number(slider.value))();
      return row(name, slider, Math.round(at * 100) + ' %' + (device.signal ? ' of ' + device.signal : ''));
    }
    if (device.momentary)
      return row(name, button('Press and let go', null, async () => { await work(1)(); await work(0)(); }), button('Hold', at === 1, work(at === 1 ? 0 : 1)));
    return row(name, button('At rest', at === 0, work(0)), button('Worked', at === 1, work(1)));
  }
  function show() {
    const unit = chosen();
    if (!unit) return place.replaceChildren(make('p', { textContent: 'Choose a unit.' }));
    const worked = (unit.floor ? unit.floor.devices : []).filter(({ kind }) => !['load', 'brake', 'relay', 'supply'].includes(kind));
    const conductors = Object.entries(unit.joined);
    const cut = ([name, ends]) => {
      const box = make('input', { type: 'checkbox', checked: unit.cut.includes(name), onchange: () => ask({ cut: { [name]: box.checked } }) });
      return make('li', {}, make('label', {}, box, ' ' + name + ': ' + ends.join(' to ')));
    };
    place.replaceChildren(
      make('h1', { textContent: (unit.tag ?? 'Unit') + ', serial number ' + unit.serial }),
      make('p', { textContent: unit.dictionary + ', ' + unit.rating + ', ' + unit.line + ' address ' + unit.address }),
      make('p', { className: 'now', textContent: state(unit) }),
      make('p', { className: 'seen', textContent: shown(unit) }),
      make('h2', { textContent: 'Devices' }),
      ...(worked.length ? worked.map((device) => deviceRow(unit, device)) : ['Nothing hangs on its terminals.']),
      make('h2', { textContent: 'Keypad' }),
      make('div', { className: 'row' }, ...['run', 'stop', 'reset', 'hand', 'automatic'].map((key) => button(key, null, () => ask({ key })))),
      make('h2', { textContent: 'Supply and time' }),
      make('div', { className: 'row' },
        button('Supply on', unit.supplied, () => ask({ supply: true })),
        button('Supply off', !unit.supplied, () => ask({ supply: false })),
        button('Wait until settled', null, () => ask({ settle: true }))),
      row(unit.hands ? 'As in production' : 'Run command from elsewhere', button(unit.hands ? 'Let go of everything' : 'Taken away', !unit.runContact, () => ask({ runContact: false })), button(unit.hands ? 'Run it' : 'Given', unit.runContact, () => ask({ runContact: true }))),
      make('h2', { textContent: 'Machine, motor and mains' }),
      make('div', { className: 'row' }, ...HAPPENINGS.map(([name, text]) => button(text, unit.surroundings[name], () => ask({ surroundings: { [name]: !unit.surroundings[name] } })))),
      make('h2', { textContent: 'Another drive in its place' }),
      swapRow(),
      make('h2', { textContent: 'Wires and links that are cut' }),
      make('ul', {}, ...conductors.map(cut)),
      ...(conductors.length > 1 ? [crossRow(unit)] : []),
    );
  }
  function showList() {
    const wanted = field.value.toLowerCase();
    list.replaceChildren(...units
      .filter(({ tag, serial }) => ((tag ?? '') + serial).toLowerCase().includes(wanted))
      .map((unit) => {
        const link = make('a', { href: '#' + unit.serial, textContent: (unit.tag ?? unit.serial) + (unit.running ? ' · turns' : '') });
        if (unit === chosen()) link.setAttribute('aria-current', 'true');
        return link;
      }));
  }
  async function look() {
    units = await (await fetch('/units')).json();
    const { seen, ...still } = chosen() ?? {};
    const line = place.querySelector('.seen');
    if (line && seen) line.textContent = shown({ seen });
    const fresh = JSON.stringify([still, units.map(({ running }) => running)]);
    // A slider that is being moved is not put back.
    if (fresh === told || document.activeElement?.matches('main input[size], main select') || document.activeElement?.type === 'range' && document.activeElement.matches(':active')) return;
    told = fresh;
    showList();
    show();
  }
  field.oninput = showList;
  onhashchange = look;
  look();
  setInterval(() => look().catch(() => { place.textContent = 'The simulated plant does not answer.'; told = ''; }), 500);
`;

export const FLOOR_PAGE = `<!doctype html>
<html lang="en">
  <meta charset="utf-8" />
  <meta name="viewport" content="width=device-width" />
  <title>Plant floor</title>
  <style>${STYLE}</style>
  <nav><input aria-label="Find a unit" placeholder="Tag or serial number" /><div></div></nav>
  <main><p>Asking the simulated plant …</p></main>
  <script type="module">${SCRIPT}</script>
</html>`;
