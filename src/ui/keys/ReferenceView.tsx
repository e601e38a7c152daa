'use client';

import Link from 'next/link';
import { useState } from 'react';
import { type Chapter, LANGUAGE_VERSION, MANUAL, PLACES } from '@/core/language';
import { FIELDS } from '@/core/market';
import { useLive, useSession } from '../client';
import { LiveSayBack } from '../editor/LiveSayBack';
import { avg } from '../format';
import { useSettings } from '../settings';

const PRICES = 'Prices now';
const FIELD_WORDS = 'Fields of rules';
const CAPITALS = 'What the capitals stand for';

/** The reference page: every form of the language, what it means, and what its example would do now. */
export function ReferenceView() {
  const [sought, setSought] = useState('');
  const [chosen, setChosen] = useState<Example | null>(null);
  const focus = useSession((s) => s.focus?.symbol ?? '');
  const fits = (...texts: string[]) =>
    texts.some((t) => t.toLowerCase().includes(sought.trim().toLowerCase()));
  const groups = MANUAL.map((g) => ({
    ...g,
    entries: g.entries.filter((e) => fits(e.pattern, e.says, e.example, ...e.aka)),
    chapter:
      g.chapter && fits(g.chapter.text, ...g.chapter.scripts.map((s) => `${s.says} ${s.text}`))
        ? g.chapter
        : null,
  })).filter((g) => g.entries.length > 0 || g.chapter !== null);
  return (
    <main className="grid h-full grid-cols-[210px_1fr_380px] gap-1.5 p-1.5">
      <nav className="panel overflow-auto px-3 py-2" aria-label="Parts of the language">
        <h1 className="heading">The language</h1>
        <label className="mt-2 block">
          <span className="sr-only">Look for a word</span>
          <input
            className="field w-full"
            type="search"
            placeholder="look for a word"
            value={sought}
            onChange={(e) => setSought(e.target.value)}
          />
        </label>
        <ul className="mt-2">
          {[...groups.map((g) => g.name), PRICES, FIELD_WORDS, CAPITALS].map((name) => (
            <li key={name}>
              <a className="block py-0.5 text-quiet hover:text-text" href={`#${idOf(name)}`}>
                {name}
              </a>
            </li>
          ))}
        </ul>
        <Link href="/keys" prefetch={false} className="mt-4 block underline">
          Back to the scripts
        </Link>
      </nav>
      <section className="panel overflow-auto px-4 pb-6" aria-label="Forms">
        {groups.map((g) => (
          <section key={g.name} aria-labelledby={idOf(g.name)}>
            <h2 id={idOf(g.name)} className="heading sticky top-0 bg-panel pt-3 pb-1">
              {g.name}
            </h2>
            {g.chapter && <Together chapter={g.chapter} chosen={chosen} choose={setChosen} />}
            <ul>
              {g.entries.map((e) => (
                <li key={e.kind} className="border-b border-line last:border-0">
                  <button
                    type="button"
                    aria-pressed={chosen?.text === e.script}
                    className="grid w-full grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-x-4 px-1 py-1.5 text-left hover:bg-raised aria-pressed:bg-raised"
                    onClick={() => setChosen({ name: e.example, text: e.script })}
                  >
                    <span className="num text-[13px] wrap-anywhere">
                      <Pattern text={e.pattern} />
                      {e.example !== e.pattern && (
                        <span className="block text-quiet">{e.example.split('\n')[0]}</span>
                      )}
                    </span>
                    <span className="text-[13px]">
                      {e.says}{' '}
                      {e.aka.length > 0 && (
                        <span className="text-quiet">Others say: {e.aka.join(', ')}.</span>
                      )}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ))}
        {groups.length === 0 && (
          <p className="pt-4 text-quiet">No form has “{sought}” in it. Prices and fields are further down.</p>
        )}
        <Prices fits={fits} />
        <h2 id={idOf(FIELD_WORDS)} className="heading sticky top-0 bg-panel pt-3 pb-1">
          {FIELD_WORDS}
        </h2>
        <dl className="grid grid-cols-[170px_1fr] gap-x-4 gap-y-1 text-[13px]">
          {FIELDS.filter((f) => fits(f.name, f.meaning)).map((f) => (
            <div key={f.name} className="contents">
              <dt className="num">{f.name}</dt>
              <dd>
                {f.meaning} {f.choices && <span className="text-quiet">One of: {f.choices.join(', ')}.</span>}
              </dd>
            </div>
          ))}
        </dl>
        <h2 id={idOf(CAPITALS)} className="heading sticky top-0 bg-panel pt-3 pb-1">
          {CAPITALS}
        </h2>
        <dl className="grid grid-cols-[170px_1fr] gap-x-4 gap-y-1 text-[13px]">
          {PLACES.map((p) => (
            <div key={p.name} className="contents">
              <dt className="num">{p.name}</dt>
              <dd>{p.says}</dd>
            </div>
          ))}
        </dl>
      </section>
      <aside className="panel overflow-auto px-4 py-3" aria-label="Example">
        {chosen ? (
          <Tried key={chosen.text} example={chosen} />
        ) : (
          <p className="text-quiet">
            One sentence a line; exits stand on lines under their entry or after a comma; # starts a comment.
            Square brackets may be left out. Choose a form to see what its example would do with {focus} now.
          </p>
        )}
      </aside>
    </main>
  );
}

const idOf = (name: string): string => name.toLowerCase().replaceAll(' ', '-');

/** Capitals are what is to be filled in; the rest is written as it stands. */
const Pattern = ({ text }: { text: string }) =>
  text.split(/([A-Z]{2,}(?: [A-Z]+)*|"TEXT")/).map((piece, k) =>
    k % 2 === 1 ? (
      <span key={`${k} ${piece}`} className="text-condition">
        {piece}
      </span>
    ) : (
      piece
    ),
  );

/** A script that can be tried: what it is called among the scripts, and its text. */
interface Example {
  name: string;
  text: string;
}

/** What is said of a group as a whole, and scripts that show its forms together. */
function Together({
  chapter,
  chosen,
  choose,
}: {
  chapter: Chapter;
  chosen: Example | null;
  choose(e: Example): void;
}) {
  return (
    <div className="border-b border-line px-1 pb-2 text-[13px]">
      <p className="max-w-[75ch] pb-2">{chapter.text}</p>
      {chapter.scripts.map(({ says, text }) => (
        <button
          key={text}
          type="button"
          aria-pressed={chosen?.text === text}
          className="grid w-full grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-x-4 px-1 py-1.5 text-left hover:bg-raised aria-pressed:bg-raised"
          onClick={() => choose({ name: says, text })}
        >
          <code className="num whitespace-pre-wrap">{text}</code>
          <span>{says}</span>
        </button>
      ))}
    </div>
  );
}

function Tried({ example }: { example: Example }) {
  const [put, setPut] = useState('');
  const scripts = useSettings((s) => s.scripts);
  const set = useSettings((s) => s.set);
  const onKey = () => {
    set({
      scripts: [
        ...scripts,
        {
          id: crypto.randomUUID(),
          name: example.name.split('\n')[0]?.slice(0, 40) || 'Example',
          text: example.text,
          language: LANGUAGE_VERSION,
          tags: [],
        },
      ],
    });
    setPut('It is among the scripts now; give it a key there.');
  };
  return (
    <>
      <h2 className="heading">For example</h2>
      <pre className="num mt-1 text-[15px] whitespace-pre-wrap" data-testid="example">
        {example.text}
      </pre>
      <LiveSayBack text={example.text} />
      <button type="button" className="btn mt-4" onClick={onKey}>
        Put this on a key
      </button>
      {put !== '' && (
        <p className="mt-2" role="status">
          {put}{' '}
          <Link href="/keys" prefetch={false} className="underline">
            To the scripts
          </Link>
        </p>
      )}
    </>
  );
}

/** The prices that have names, with their values for the focus. */
function Prices({ fits }: { fits: (...texts: string[]) => boolean }) {
  const names = useLive<'names'>({ kind: 'names' });
  const shown = (names?.names ?? []).filter((n) => fits(n.text, n.meaning));
  let before = '';
  return (
    <>
      <h2 id={idOf(PRICES)} className="heading sticky top-0 bg-panel pt-3 pb-1">
        {PRICES} {names && <span className="num">· {names.symbol} now</span>}
      </h2>
      <table className="w-full text-[13px]">
        <tbody>
          {shown.map((n) => {
            const same = n.meaning === before;
            before = n.meaning;
            return (
              <tr key={n.text} className="align-top">
                <td className="num w-48 pr-3">{n.text}</td>
                <td className="num w-20 pr-4 text-right">{n.price === null ? '–' : avg(n.price)}</td>
                <td>{same ? '' : n.meaning}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
