// Everything that can be done from the palette, as it stands now.
import { beginsSentence, explain, oneLine, parseScript } from '@/core/language';
import { REGULAR_OPEN } from '@/core/units';
import { keysInUse, rackShown } from '@/store/keys';
import { shownOf } from '../arrangement';
import { act, ask, focusOn, peeksShown, useSession } from '../client';
import { chordName, KEYS_SWITCH, NEXT_ARRANGEMENT, NEXT_RACK, NEXT_SET, PALETTE } from '../hands/chords';
import { useHands } from '../hands/hands';
import { useSettings } from '../settings';

/** One thing that can be done. */
export interface Command {
  id: string;
  group: 'Do' | 'Go to' | 'Scripts' | 'Symbols' | 'Plans' | 'Time' | 'Settings';
  name: string;
  /** Its key, as it is read; '' for none. */
  key: string;
  /** More words to find it by. */
  words?: string;
  /** What was typed itself, or a mending of it: not among what was done lately. */
  typed?: true;
  /** Why it is switched off, and how to switch it on; null while it is on. */
  off: string | null;
  run(go: (path: string) => void): void;
}

const VIEWS = [
  ['Scan', '/scan', 'candidates table'],
  ['Desk', '/desk', 'trade chart'],
  ['Options', '/options', 'chain'],
  ['Keys', '/keys', 'hotkeys scripts bindings'],
  ['Reference of the language', '/keys/reference', 'words help forms'],
  ['Plans', '/plans', 'exits waiting'],
  ['Rehearse', '/rehearse', 'backtest many days'],
  ['Review', '/review', 'journal trades'],
  ['Practice days', '/days', 'attempts import own data'],
  ['Setup', '/setup', 'accounts guards fees theme line'],
] as const;

/** Symbols shown for what is typed. */
const MOST_SYMBOLS = 8;

/** Everything that can be done now; `typed` finds symbols and reads as a sentence. */
export function commandsFor(typed: string): Command[] {
  const said = sentence(typed);
  const reads = said.every((c) => c.off === null);
  return [
    ...(reads ? said : []),
    ...symbols(typed),
    ...scripts(),
    ...views(),
    ...plans(),
    ...time(),
    ...settings(),
    ...(reads ? [] : said),
  ];
}

const on = { off: null, key: '' } as const;

/** What is typed as a sentence of its own; one that does not read with its reason, and with what would mend it. */
function sentence(typed: string): Command[] {
  const text = typed.trim();
  if (!text.includes(' ') && text !== 'flatten') return [];
  const listed = useSession.getState().symbols ?? [];
  const { problems } = parseScript(text, (symbol) => listed.includes(symbol));
  const [problem] = problems;
  const saying = (script: string): Command => ({
    ...on,
    typed: true,
    id: `sentence ${script}`,
    group: 'Do',
    name: oneLine(script),
    words: typed,
    run: () => void act(script, 'ticket', 'Palette'),
  });
  if (!problem) return [saying(text)];
  if (!beginsSentence(text) && problem.fixes.length === 0) return [];
  return [
    { ...saying(text), off: explain(problem) },
    ...problem.fixes.map((f) => saying(text.slice(0, f.from) + f.text + text.slice(f.to))),
  ];
}

function symbols(typed: string): Command[] {
  const wanted = typed.trim().toUpperCase();
  if (!/^[A-Z]{1,5}$/.test(wanted)) return [];
  const all = useSession.getState().symbols ?? [];
  return all
    .filter((s) => s.startsWith(wanted))
    .slice(0, MOST_SYMBOLS)
    .map((s) => ({
      ...on,
      id: `symbol ${s}`,
      group: 'Symbols',
      name: `Focus ${s}`,
      run: () => void focusOn(s),
    }));
}

function scripts(): Command[] {
  const s = useSettings.getState();
  const { printed } = useHands.getState();
  const peeks = peeksShown(useSession.getState());
  const { keys } = keysInUse(s);
  return s.scripts.map((script) => ({
    id: `script ${script.id}`,
    group: 'Scripts',
    name: script.name,
    key: chordName(keys.find((k) => k.script === script.id)?.chord ?? '', printed),
    words: `${script.tags.join(' ')} ${script.text}`,
    off: peeks.find((p) => p.text === script.text)?.problem ?? null,
    run: () => void act(script.text, 'buttons', script.name),
  }));
}

const views = (): Command[] =>
  VIEWS.map(([name, path, words]) => ({
    ...on,
    id: `view ${path}`,
    group: 'Go to',
    name,
    words,
    run: (go) => go(path),
  }));

function plans(): Command[] {
  const s = useSettings.getState();
  return s.plans.flatMap((p): Command[] =>
    (['long', 'short'] as const).map((side) => ({
      ...on,
      id: `plan ${side} ${p.name}`,
      group: 'Plans',
      name: `Take “${p.name}” by ${side}`,
      words: p.text,
      off: (side === 'long' ? s.planLong : s.planShort) === p.name ? 'It is taken already.' : null,
      run: () => s.set(side === 'long' ? { planLong: p.name } : { planShort: p.name }),
    })),
  );
}

function time(): Command[] {
  const { clock } = useSession.getState();
  if (!clock) return [];
  const over = clock.now >= clock.dayStart + clock.hours.end;
  const ended = over ? 'The day has ended. Go on to the next day.' : null;
  const speeds = [1, 5, 20, 60].map(
    (speed): Command => ({
      ...on,
      id: `speed ${speed}`,
      group: 'Time',
      name: `Run at ${speed}×`,
      off: ended,
      run: () => void ask({ kind: 'speed', speed }),
    }),
  );
  return [
    {
      ...on,
      id: 'pause',
      group: 'Time',
      name: 'Pause',
      off: clock.speed === 0 && clock.jumpingTo === null ? 'Time stands still already.' : null,
      run: () => void ask({ kind: 'speed', speed: 0 }),
    },
    ...speeds,
    {
      ...on,
      id: 'to the open',
      group: 'Time',
      name: 'To the open',
      off: clock.now >= clock.dayStart + REGULAR_OPEN ? 'The open is behind you; “Go to…” goes back.' : null,
      run: () => void ask({ kind: 'jump', to: clock.dayStart + REGULAR_OPEN }),
    },
    {
      ...on,
      id: 'next event',
      group: 'Time',
      name: 'To the next event',
      words: 'halt news fill alert',
      off: ended,
      run: () => {
        const focus = useSession.getState().focus?.symbol;
        void ask({ kind: 'next event', symbols: focus === undefined ? [] : [focus] });
      },
    },
    { ...on, id: 'next day', group: 'Time', name: 'Next day', run: () => void ask({ kind: 'next day' }) },
  ];
}

function settings(): Command[] {
  const s = useSettings.getState();
  const rack = rackShown(s);
  const keys = keysInUse(s);
  const one = (id: string, name: string, run: () => void, more: Partial<Command> = {}): Command => ({
    ...on,
    id,
    group: 'Settings',
    name,
    run,
    ...more,
  });
  return [
    one('keys', s.keysOn ? 'Turn all keys off' : 'Turn all keys on', () => s.set({ keysOn: !s.keysOn }), {
      key: chordName(KEYS_SWITCH),
    }),
    one('theme', s.theme === 'night' ? 'Theme: Dawn' : 'Theme: Night', () =>
      s.set({ theme: s.theme === 'night' ? 'dawn' : 'night' }),
    ),
    one('extended', s.chartExtended ? 'Chart: regular hours only' : 'Chart: extended hours', () =>
      s.set({ chartExtended: !s.chartExtended }),
    ),
    one('guide', 'First ten minutes', () => s.set({ guide: { on: true, step: s.guide.step } }), {
      words: 'guide help tour begin',
      off: s.guide.on ? 'It is at the foot of the view already.' : null,
    }),
    one('sound', s.alerts.muted ? 'Alerts: sound on' : 'Alerts: sound off', () =>
      s.set({ alerts: { ...s.alerts, muted: !s.alerts.muted } }),
    ),
    ...s.racks.map((r) =>
      one(`rack ${r.id}`, `Rack: ${r.name}`, () => s.set({ rack: r.id }), {
        key: s.racks.length > 1 ? chordName(NEXT_RACK) : '',
        off: r.id === rack.id ? 'It is shown already.' : null,
      }),
    ),
    ...s.arrangements.map((a) =>
      one(`arrangement ${a.id}`, `Desk: ${a.name}`, () => s.set({ arrangement: a.id }), {
        key: chordName(NEXT_ARRANGEMENT),
        words: 'arrangement layout panels',
        off: a.id === shownOf(s).id ? 'It is shown already.' : null,
      }),
    ),
    {
      ...one('arrange', 'Arrange the Desk', () => useHands.setState({ arranging: true })),
      words: 'panels layout second window export',
      run: (go) => {
        go('/desk');
        useHands.setState({ arranging: true });
      },
    },
    one('second window', 'Desk: second window', () => useHands.setState({ second: true }), {
      words: 'popup monitor screen',
      off: useHands.getState().second ? 'It is open already.' : null,
    }),
    ...s.keySets.map((k) =>
      one(`set ${k.id}`, `Keys: ${k.name}`, () => s.set({ keySet: k.id }), {
        key: chordName(NEXT_SET),
        off: k.id === keys.id ? 'It is in use already.' : null,
      }),
    ),
  ];
}

/** Every key that does something now: those of the app, then those of the set in use. */
export function keysNow(): { key: string; does: string }[] {
  const s = useSettings.getState();
  const { printed } = useHands.getState();
  const own: [string, string][] = [
    [chordName(PALETTE), 'find anything and do it'],
    [chordName(KEYS_SWITCH), 'turn all keys off and on'],
    [chordName(NEXT_SET), 'the next set of keys'],
    [chordName(NEXT_RACK), 'the next rack'],
    [chordName(NEXT_ARRANGEMENT), 'the next arrangement of the Desk'],
    ['Ctrl+Alt+1 to 9', 'send one of what is staged'],
    ['Shift, held', 'see what every key and button would do'],
    ['Enter', 'send what waits for a yes'],
    ['Escape', 'drop what waits for a yes'],
    ['Ctrl+Enter', 'send the ticket, while you write in it'],
  ];
  const bound = keysInUse(s).keys.flatMap((k): [string, string][] => {
    const script = s.scripts.find((x) => x.id === k.script);
    return script ? [[chordName(k.chord, printed), script.name]] : [];
  });
  return [...own, ...bound].map(([key, does]) => ({ key, does }));
}
