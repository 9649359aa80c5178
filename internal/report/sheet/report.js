'use strict';
(() => {
const data = JSON.parse(document.getElementById('data').textContent);
const main = document.getElementById('main');
const NS = 'http://www.w3.org/2000/svg';

// Everything that comes from the database becomes text, never markup.
function el(name, attributes, ...children) {
  const e = document.createElement(name);
  for (const k in attributes || {}) {
    const v = attributes[k];
    if (k.startsWith('on')) e.addEventListener(k.slice(2), v);
    else if (v !== false && v !== undefined && v !== null) e.setAttribute(k, v === true ? '' : v);
  }
  for (const c of children.flat()) if (c !== null && c !== undefined && c !== '') e.append(c);
  return e;
}
function svg(name, attributes, ...children) {
  const e = document.createElementNS(NS, name);
  for (const k in attributes) e.setAttribute(k, attributes[k]);
  e.append(...children);
  return e;
}
const amount = n => n === null || n === undefined ? '' : n.toLocaleString('en-US');
function size(n) {
  if (n === null || n === undefined) return '';
  for (const [u, by] of [['TB', 1e12], ['GB', 1e9], ['MB', 1e6], ['kB', 1e3]]) if (n >= by) return (n / by).toPrecision(n / by >= 100 ? 3 : 2) + ' ' + u;
  return n + ' B';
}
const tableLink = id => byID.has(id) ? el('a', {href: '#/table/' + encodeURIComponent(id)}, id) : el('span', {}, id);
const sev = s => el('span', {class: 'sev ' + s}, s);
const byID = new Map(data.tables.map(t => [t.id, t]));

function tableOf(head, rows, numeric) {
  const right = new Set(numeric || []);
  return el('div', {class: 'scroll'}, el('table', {},
    head ? el('thead', {}, el('tr', {}, head.map((h, i) => el('th', {scope: 'col', class: right.has(i) ? 'n' : null}, h)))) : null,
    el('tbody', {}, rows.map(r => el('tr', {}, r.map((c, i) => el('td', {class: right.has(i) ? 'n' : null}, c)))))));
}

// ---- findings

function copyButton(text) {
  const b = el('button', {type: 'button', class: 'copy'}, 'Copy');
  b.addEventListener('click', async () => {
    let done = false;
    try { await navigator.clipboard.writeText(text); done = true; } catch (e) {
      const area = el('textarea', {}); area.value = text; document.body.append(area); area.select();
      done = document.execCommand('copy'); area.remove();
    }
    b.textContent = done ? 'Copied' : 'Not copied';
    setTimeout(() => { b.textContent = 'Copy'; }, 1600);
  });
  return b;
}

function finding(f, level) {
  const rule = data.rules[f.rule] || {};
  const box = el('article', {class: 'finding' + (f.part ? ' part' : ''), 'data-rule': f.rule});
  box.append(el(level || 'h3', {style: 'margin:0'}, sev(f.severity), ' ', f.table ? tableLink(f.table) : 'the database as a whole', ' ', el('span', {class: 'faint small'}, f.comes + ' · ' + f.rule + (rule.title ? ', ' + rule.title : '') + (f.known ? ' · known' : ''))));
  box.append(el('p', {}, f.message, ' ', el('span', {class: 'faint small'}, {structure: 'by the catalog', statistics: "by the engine's figures", sampled: 'by a sample of the rows', verified: 'by all rows'}[f.certainty] || '')));
  if (f.advice) box.append(el('p', {class: 'faint'}, f.advice));
  if (f.decision) box.append(el('p', {class: 'faint'}, f.decision));
  for (const x of f.fixes || []) {
    const d = el('details', {}, el('summary', {}, 'Fix: ' + x.title + (x.ask ? ' (once chosen)' : '')));
    if (x.sql) d.append(el('pre', {}, x.sql), copyButton(x.sql));
    else d.append(el('p', {class: 'faint'}, 'nexdal script fix writes it, with its pre-checks and the way back.'));
    box.append(d);
  }
  for (const c of f.commands || []) box.append(el('p', {class: 'type'}, el('code', {}, c), ' ', copyButton(c)));
  if (rule.doc) {
    const d = el('details', {}, el('summary', {}, 'Why it matters'));
    for (const p of rule.doc.split('\n\n')) d.append(el('p', {}, p));
    box.append(d);
  }
  return box;
}

const filter = {severity: '', area: '', table: '', text: '', group: 'table'};

function findings() {
  const list = el('div', {'aria-live': 'polite'});
  const count = el('p', {class: 'faint'});
  const areas = [...new Set(data.findings.map(f => f.rule.split('/')[0]))].sort();
  const select = (key, label, options) => {
    const s = el('select', {id: 'by-' + key, onchange: e => { filter[key] = e.target.value; show(); }}, options.map(([v, says]) => el('option', {value: v, selected: filter[key] === v}, says)));
    return el('label', {}, label, s);
  };
  const input = (key, label) => el('label', {}, label, el('input', {type: 'search', id: 'by-' + key, value: filter[key], oninput: e => { filter[key] = e.target.value; show(); }}));
  function show() {
    const text = filter.text.toLowerCase(), table = filter.table.toLowerCase();
    const found = data.findings.filter(f => (!filter.severity || f.severity === filter.severity) && (!filter.area || f.rule.startsWith(filter.area + '/')) &&
      (!table || (f.table || '').toLowerCase().includes(table)) && (!text || (f.message + ' ' + f.rule + ' ' + (f.table || '') + ' ' + (f.object || '')).toLowerCase().includes(text)));
    count.textContent = amount(found.length) + ' of ' + amount(data.findings.length) + ' findings';
    const groups = new Map();
    for (const f of found) {
      const key = filter.group === 'table' ? (f.table || 'the database as a whole') : filter.group === 'rule' ? f.rule : f.severity;
      if (!groups.has(key)) groups.set(key, []);
      groups.get(key).push(f);
    }
    list.replaceChildren();
    let shown = 0;
    const entries = [...groups];
    const more = () => {
      const until = shown + 200;
      while (entries.length && shown < until) {
        const [key, members] = entries.shift();
        list.append(el('h2', {}, key, ' ', el('span', {class: 'faint small'}, amount(members.length))));
        for (const f of members) list.append(finding(f));
        shown += members.length;
      }
      if (entries.length) list.append(el('button', {type: 'button', onclick: e => { e.target.remove(); more(); }}, 'Show more'));
    };
    more();
  }
  main.append(el('h1', {}, 'Findings'),
    el('div', {class: 'filters', role: 'search'}, select('severity', 'Severity', [['', 'all'], ['error', 'errors'], ['warning', 'warnings'], ['notice', 'notices']]),
      select('area', 'Area', [['', 'all'], ...areas.map(a => [a, a])]), input('table', 'Table'), input('text', 'Text'),
      select('group', 'Group by', [['table', 'table'], ['rule', 'rule'], ['severity', 'severity']])), count, list);
  show();
}

// ---- summary

function summary() {
  const s = data.summary;
  main.append(el('h1', {}, 'Summary'), el('p', {}, data.source.says), data.findings.length ? el('p', {class: 'chat'}, data.chat + '.') : '', el('div', {class: 'cards'},
    ['error', 'warning', 'notice'].map(k => el('a', {class: 'card ' + k, href: '#/findings', style: 'color:inherit;text-decoration:none', onclick: () => { filter.severity = k; }}, el('b', {}, amount(s[k] || 0)), k + (s[k] === 1 ? '' : 's'))),
    s.known ? el('div', {class: 'card'}, el('b', {}, amount(s.known)), 'of them known') : '', s.set_aside ? el('div', {class: 'card'}, el('b', {}, amount(s.set_aside)), 'more set aside') : '',
    el('div', {class: 'card'}, el('b', {}, amount(data.tables.length)), data.tables.length === 1 ? 'table' : 'tables')));
  main.append(el('h2', {}, data.first.length ? 'What to do first' : data.tables.length ? 'Nothing was found' : 'There are no tables, or the account may see none'));
  main.append(el('ol', {class: 'first'}, data.first.map(f => el('li', {}, sev(f.severity), ' ', f.table ? tableLink(f.table) : 'the database', ': ', f.message, el('br'), el('span', {class: 'faint small'}, f.why), (f.commands || []).flatMap(c => [el('br'), el('code', {}, c)])))));
  if (data.moments && data.moments.length > 1) main.append(el('h2', {}, 'Over time'), trend(data.moments));
  const areas = new Map();
  for (const f of data.findings) {
    const a = f.rule.split('/')[0];
    if (!areas.has(a)) areas.set(a, {error: 0, warning: 0, notice: 0});
    areas.get(a)[f.severity]++;
  }
  if (areas.size) main.append(el('h2', {}, 'By area'), tableOf(['Area', 'Errors', 'Warnings', 'Notices'], [...areas].sort((a, b) => a[0] < b[0] ? -1 : 1).map(([a, n]) => [el('a', {href: '#/findings', onclick: () => { filter.area = a; filter.severity = ''; }}, a), amount(n.error), amount(n.warning), amount(n.notice)]), [1, 2, 3]));
  if (data.aside.length) main.append(el('h2', {}, 'Set aside'), tableOf(['Rule', 'Table', 'What', 'Decision'], data.aside.map(f => [f.rule, f.table ? tableLink(f.table) : 'the database', f.message, f.decision])));
  if (data.unjudged.length) main.append(el('h2', {}, 'Not judged'), tableOf(['Rule', 'Objects', 'Lacks', 'What would supply it'], data.unjudged.map(u => [u.rule, amount(u.objects), u.needs, u.command || '']), [1]));
  if (data.gaps.length) main.append(el('h2', {}, 'Could not be read'), tableOf(['Where', 'What', 'Why'], data.gaps.map(g => [g.where, g.what, g.why])));
}

// A bar for each moment, errors at the bottom.
function trend(list) {
  const w = 640, h = 150, left = 44, most = Math.max(1, ...list.map(m => m.errors + m.warnings + m.notices));
  const out = svg('svg', {viewBox: `0 0 ${w} ${h + 22}`, role: 'img', 'aria-label': 'Findings over time', class: 'trend'});
  const step = (w - left) / list.length, bar = Math.min(46, step * .7), y = n => h - (h - 12) * n / most;
  for (const n of [0, Math.round(most / 2), most]) out.append(svg('line', {x1: left, x2: w, y1: y(n), y2: y(n), class: 'grid'}), svg('text', {x: left - 6, y: y(n) + 4, 'text-anchor': 'end'}, amount(n)));
  list.forEach((m, i) => {
    const x = left + step * i + (step - bar) / 2, day = m.at.slice(0, 10);
    let sum = 0;
    for (const k of ['errors', 'warnings', 'notices']) {
      if (!m[k]) continue;
      out.append(svg('rect', {x, width: bar, y: y(sum + m[k]), height: y(sum) - y(sum + m[k]), class: k}, svg('title', {}, `${day}: ${amount(m[k])} ${k}`)));
      sum += m[k];
    }
    if (list.length <= 8 || i % Math.ceil(list.length / 8) === 0) out.append(svg('text', {x: x + bar / 2, y: h + 16, 'text-anchor': 'middle'}, day));
  });
  return el('figure', {class: 'trendbox'}, out, el('figcaption', {class: 'legend'}, ['errors', 'warnings', 'notices'].map(k => el('span', {}, el('i', {class: k}), k))));
}

// ---- tables

let tableText = '';
function tables() {
  const list = el('div', {});
  const show = () => {
    const t = tableText.toLowerCase();
    const rows = data.tables.filter(x => !t || x.id.toLowerCase().includes(t)).slice(0, 2000);
    list.replaceChildren(tableOf(['Table', 'Rows', 'Size', 'Indexes', 'Columns', 'Refers to', 'Referred to by', 'Findings'], rows.map(x => [tableLink(x.id), amount(x.rows), size(x.bytes), size(x.index_bytes), amount(x.columns.length), amount(x.to.length), amount(x.by.length), x.worst ? [sev(x.worst), ' ', amount(x.findings)] : '']), [1, 2, 3, 4, 5, 6]));
  };
  main.append(el('h1', {}, 'Tables'), el('div', {class: 'filters', role: 'search'}, el('label', {}, 'Name', el('input', {type: 'search', id: 'by-name', value: tableText, oninput: e => { tableText = e.target.value; show(); }}))), list);
  show();
}

function table(id) {
  const t = byID.get(id);
  if (!t) { main.append(el('h1', {}, 'No such table'), el('p', {}, id)); return; }
  main.append(el('h1', {}, t.id), el('p', {class: 'faint'}, [t.says, t.comment].filter(x => x).join(' · ')));
  if (t.note) main.append(el('p', {class: 'note'}, 'Note: ' + t.note));
  const found = data.findings.filter(f => f.table === id);
  if (found.length) main.append(el('h2', {}, 'Findings'), ...found.map(f => finding(f)));
  main.append(el('h2', {}, 'Columns'), tableOf(['', 'Column', 'Type', 'Null', 'Key', 'Notes'], t.columns.map((c, i) => [String(i + 1), c.name, c.type, c.null ? 'may be null' : '', c.mark || '', c.notes || '']), [0]));
  const part = (title, head, rows, numeric) => { if (rows && rows.length) main.append(el('h2', {}, title), tableOf(head, rows, numeric)); };
  part('Keys', ['Kind', 'Columns', 'Name'], t.keys);
  const linked = (r, i) => r.map((c, k) => k === i && byID.has(c) ? tableLink(c) : c);
  part('Refers to', ['Columns', 'Table', 'Columns there', 'How many', 'More'], t.to.map(r => linked(r, 1)));
  part('Referred to by', ['Table', 'Columns', 'How many', 'More'], t.by.map(r => linked(r, 0)));
  part('Indexes', ['Name', 'Columns', 'Made by', 'Size'], t.indexes.map(x => [x[0], x[1], x[2], size(x[3])]), [3]);
  part('Checks', ['Name', 'Condition'], t.checks);
  part('Partitions', ['Name', 'Bounds'], t.partitions);
  part('Triggers', ['Name', 'When and what'], t.triggers);
  part('In the cluster', null, t.cluster);
  if (t.scene) {
    main.append(el('h2', {}, 'In the diagram'), el('div', {class: 'sheet'}, paint(t.scene, id)));
  }
}

// ---- diagram: scenes that were laid out beforehand

function colours() {
  const dark = document.documentElement.dataset.theme === 'dark';
  return data.palette[dark ? 'dark' : 'light'];
}

function paint(scene, mark) {
  const c = colours();
  const out = svg('svg', {viewBox: `0 0 ${scene.w} ${scene.h}`, role: 'group', 'aria-label': 'Diagram of ' + scene.b.length + ' tables'});
  out.style.maxWidth = scene.w + 'px';
  const text = (x, y, s, kind, fill, wide) => { const t = svg('text', {x, y, class: kind, textLength: wide, lengthAdjust: 'spacingAndGlyphs'}, s); if (fill) t.style.fill = fill; return t; };
  for (const f of scene.f || []) {
    out.append(svg('rect', {x: f[0], y: f[1], width: f[2], height: f[3], rx: 8, fill: 'none', stroke: c.edge, 'stroke-dasharray': '2 4'}), text(f[0] + 12, f[1] + 18, f[4], 'faint strong'));
  }
  for (const l of scene.l) {
    const g = svg('g', {stroke: c.line, 'stroke-width': 1.3, fill: 'none'}, svg('title', {}, l.t));
    g.append(svg('path', {d: 'M' + l.p.join('L'), 'stroke-dasharray': l.d ? '5 4' : 'none'}));
    for (const s of l.s) g.append(svg('path', {d: s}));
    for (const r of l.r || []) g.append(svg('circle', {cx: r[0], cy: r[1], r: 3.5, fill: c.paper}));
    out.append(g);
  }
  for (const b of scene.b) {
    const fill = c.fills[b.f] || c.fills.plain, ink = c.ink[b.f];
    const g = svg('g', {class: 't', tabindex: 0, role: 'link', 'data-id': b.i}, svg('title', {}, b.t));
    if (b.i === mark) g.classList.add('found');
    g.append(svg('rect', {x: b.x, y: b.y, width: b.w, height: b.h, rx: 4, fill: c.body, stroke: c.edge}),
      svg('rect', {x: b.x, y: b.y, width: b.w, height: b.r ? 24 : b.h, rx: 4, fill, stroke: c.edge}));
    for (const t of b.x2) g.append(text(t[0], t[1], t[2], t[3] ? 'strong' : (t[4] === 2 ? 'faint' : ''), t[4] === 1 ? ink : null, t[5]));
    const go = () => { if (byID.has(b.i)) location.hash = '#/table/' + encodeURIComponent(b.i); };
    g.addEventListener('click', () => { if (!out.moved) go(); });
    g.addEventListener('keydown', e => { if (e.key === 'Enter') go(); });
    out.append(g);
  }
  return out;
}

let sheet = 0;
function diagram() {
  main.classList.add('wide');
  const hold = el('div', {class: 'sheet big'});
  const names = data.sheets.map((s, i) => el('option', {value: i, selected: i === sheet}, s.name));
  let picture, view;
  function zoom(by, cx, cy) {
    const [x, y, w, h] = view;
    const k = Math.min(Math.max(w * by, 100), data.sheets[sheet].w * 4) / w;
    view = [cx - (cx - x) * k, cy - (cy - y) * k, w * k, h * k];
    set();
  }
  const set = () => picture.setAttribute('viewBox', view.join(' '));
  const at = e => { const r = picture.getBoundingClientRect(), s = Math.max(view[2] / r.width, view[3] / r.height); return [view[0] + view[2] / 2 + (e.clientX - r.left - r.width / 2) * s, view[1] + view[3] / 2 + (e.clientY - r.top - r.height / 2) * s, s]; };
  function show(find) {
    const s = data.sheets[sheet];
    picture = paint(s, find);
    picture.style.maxWidth = 'none';
    view = [0, 0, s.w, s.h];
    hold.replaceChildren(picture);
    let from = null;
    picture.addEventListener('pointerdown', e => { from = [e.clientX, e.clientY, view[0], view[1]]; picture.moved = false; });
    picture.addEventListener('pointermove', e => {
      if (!from) return;
      const k = at(e)[2];
      if (Math.abs(e.clientX - from[0]) + Math.abs(e.clientY - from[1]) > 4) picture.moved = true;
      view[0] = from[2] - (e.clientX - from[0]) * k; view[1] = from[3] - (e.clientY - from[1]) * k;
      set();
    });
    for (const end of ['pointerup', 'pointerleave']) picture.addEventListener(end, () => { from = null; });
    picture.addEventListener('wheel', e => { e.preventDefault(); const [x, y] = at(e); zoom(e.deltaY > 0 ? 1.15 : 1 / 1.15, x, y); }, {passive: false});
    if (find) {
      const b = s.b.find(b => b.i === find);
      if (b) { view = [b.x + b.w / 2 - 450, b.y + b.h / 2 - 280, 900, 560]; set(); }
    }
  }
  const search = el('input', {type: 'search', id: 'find', list: 'names', oninput: e => {
    const t = e.target.value.toLowerCase();
    if (!t) { show(); return; }
    for (const exact of [true, false]) for (let i = 0; i < data.sheets.length; i++) {
      const b = data.sheets[i].b.find(b => exact ? b.i.toLowerCase() === t || b.i.toLowerCase().endsWith('.' + t) : b.i.toLowerCase().includes(t));
      if (b) { sheet = i; pick.value = i; show(b.i); return; }
    }
  }});
  const pick = el('select', {id: 'sheet', onchange: e => { sheet = +e.target.value; show(); }}, names);
  const centre = () => [view[0] + view[2] / 2, view[1] + view[3] / 2];
  main.append(el('h1', {}, 'Diagram'), el('div', {class: 'filters', role: 'search'}, el('label', {}, 'Table', search), data.sheets.length > 1 ? el('label', {}, 'Sheet', pick) : null,
    el('button', {type: 'button', onclick: () => zoom(1 / 1.4, ...centre())}, 'Larger'), el('button', {type: 'button', onclick: () => zoom(1.4, ...centre())}, 'Smaller'), el('button', {type: 'button', onclick: () => show()}, 'Whole')), hold,
    el('p', {class: 'legend'}, data.legend.map(m => { const i = el('i', {}); i.style.background = colours().fills[m[0]]; return el('span', {}, i, m[1]); })));
  show();
}

// ---- indexes

function bars(rows, kind) {
  const most = Math.max(1, ...rows.map(r => r[1]));
  return el('div', {class: 'bars'}, rows.map(r => { const b = el('div', {class: 'bar ' + (kind || '')}); b.style.width = (100 * r[1] / most) + '%';
    return el('div', {}, el('span', {title: r[0]}, r[2] ? tableLink(r[2]) : '', r[2] ? ' ' : '', r[0]), el('span', {class: 'hold'}, b), el('span', {class: 'small'}, size(r[1]))); }));
}
function indexes() {
  const x = data.indexes;
  main.append(el('h1', {}, 'Indexes'), el('p', {}, x.says));
  if (x.largest.length) main.append(el('h2', {}, 'The largest'), bars(x.largest));
  if (x.redundant.length) main.append(el('h2', {}, 'Needless beside others'), bars(x.redundant, 'spare'));
  if (x.unused.length) main.append(el('h2', {}, 'Never read since the engine counts'), bars(x.unused, 'spare'));
}

// ---- which part is shown

function go() {
  const [, part, id] = (location.hash || '#/').match(/^#\/([a-z]*)\/?(.*)$/) || [, '', ''];
  main.replaceChildren();
  main.classList.remove('wide');
  const current = part === 'table' ? 'tables' : part || 'summary';
  for (const a of document.querySelectorAll('nav a')) a.dataset.part === current ? a.setAttribute('aria-current', 'page') : a.removeAttribute('aria-current');
  ({'': summary, findings, tables, diagram, indexes}[part] || (() => table(decodeURIComponent(id))))();
  window.scrollTo(0, 0);
}
const button = document.getElementById('theme');
function theme(t) { document.documentElement.dataset.theme = t; button.textContent = t === 'dark' ? 'Light' : 'Dark'; }
theme(matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');
button.addEventListener('click', () => { theme(document.documentElement.dataset.theme === 'dark' ? 'light' : 'dark'); go(); });
window.addEventListener('hashchange', () => { go(); main.focus(); });
go();
})();
