'use client';

import { Plus } from 'lucide-react';
import { type KeyboardEvent, useMemo, useState } from 'react';
import {
  additionsTo,
  begin,
  type Choice,
  choicesAt,
  oneLine,
  printTree,
  TASKS,
  typedAt,
  type Word,
} from '@/core/language';
import { Pop } from '../primitives/Pop';
import { type Frame, type Sentence, sentencesIn } from './frames';
import { useKnown } from './useKnown';
import { type Offer, WordMenu } from './WordMenu';

interface Props {
  frame?: Frame;
  text: string;
  change(text: string): void;
  label: string;
}

/** A text as rows of words: each word opens what may stand there, “+” what may be added. It never makes one that does not read. */
export function SentenceRows({ frame = 'script', text, change, label }: Props) {
  const { sentences, problems } = useMemo(() => sentencesIn(frame, text), [frame, text]);
  return (
    <div role="group" aria-label={label} className="grid content-start gap-1.5" onKeyDown={walk}>
      {sentences.map((s, k) => (
        <SentenceLines key={k} sentence={s} peeks={frame === 'script'} change={change} />
      ))}
      {problems.map((p) => (
        <p key={p} className="text-[13px]">
          ⚠ {p} Mend it in the text; what reads can be changed here.
        </p>
      ))}
      {frame === 'script' && <NewLine text={text} change={change} />}
    </div>
  );
}

/** Left and right go from word to word. */
function walk(e: KeyboardEvent<HTMLElement>): void {
  const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
  if (by === 0 || !(e.target instanceof HTMLElement) || e.target.dataset.word === undefined) return;
  const words = [...e.currentTarget.querySelectorAll<HTMLElement>('[data-word]')];
  words[words.indexOf(e.target) + by]?.focus();
  e.preventDefault();
}

function SentenceLines({
  sentence,
  peeks,
  change,
}: {
  sentence: Sentence;
  peeks: boolean;
  change(text: string): void;
}) {
  return (
    <>
      {sentence.rows.map((row) => (
        <div
          key={row.path.join('.')}
          className="flex flex-wrap items-center gap-1"
          style={{ marginLeft: row.indent * 20 }}
        >
          {row.words.map((w, k) => (
            <WordButton key={k} word={w} sentence={sentence} peeks={peeks} change={change} />
          ))}
          <Additions sentence={sentence} row={row.path} peeks={peeks} change={change} />
        </div>
      ))}
    </>
  );
}

const LOOK: Partial<Record<Word['role'], string>> = {
  verb: 'font-bold',
  word: 'text-quiet',
  price: 'font-semibold',
  field: 'font-semibold',
  offset: 'text-condition',
  value: 'text-condition',
  time: 'text-condition',
  symbol: 'text-focus',
  name: 'text-focus',
};

function WordButton({
  word,
  sentence,
  peeks,
  change,
}: {
  word: Word;
  sentence: Sentence;
  peeks: boolean;
  change(text: string): void;
}) {
  const [open, setOpen] = useState(false);
  const done = (text: string) => {
    setOpen(false);
    change(text);
  };
  return (
    <Pop
      title={`${word.text}: change it`}
      open={open}
      onOpenChange={setOpen}
      data-word
      className={`num rounded border border-line px-1.5 py-0.5 hover:border-quiet ${LOOK[word.role] ?? ''}`}
      label={word.text}
    >
      {open && <Choose word={word} sentence={sentence} peeks={peeks} done={done} />}
    </Pop>
  );
}

function Choose({
  word,
  sentence,
  peeks,
  done,
}: {
  word: Word;
  sentence: Sentence;
  peeks: boolean;
  done(text: string): void;
}) {
  const known = useKnown();
  const choices = useMemo(() => choicesAt(sentence.statement, word, known), [sentence, word, known]);
  const offers = (list: typeof choices.values): Offer[] =>
    list
      .filter((c) => sentence.allows(c.statement))
      .map((c) => ({ text: c.text, says: c.says, whole: sentence.text(c.statement) }));
  const { without } = choices;
  return (
    <WordMenu
      typed={choices.typed}
      enter={(text) => {
        const made = typedAt(sentence.statement, word, text);
        if (made.ok) done(sentence.text(made.statement));
        return made.ok ? null : made;
      }}
      groups={[
        { name: '', offers: offers(choices.values) },
        { name: choices.values.length > 0 ? 'Something else' : '', offers: offers(choices.instead) },
      ]}
      without={without && sentence.allows(without) ? sentence.text(without) : null}
      now={peeks ? sentence.now : null}
      done={done}
    />
  );
}

function Additions({
  sentence,
  row,
  peeks,
  change,
}: {
  sentence: Sentence;
  row: Word['path'];
  peeks: boolean;
  change(text: string): void;
}) {
  const [open, setOpen] = useState(false);
  const known = useKnown();
  return (
    <Pop
      title="Add to this line"
      open={open}
      onOpenChange={setOpen}
      data-word
      className="rounded border border-dashed border-line px-1 py-1 text-quiet hover:border-quiet"
      label={<Plus size={14} aria-hidden />}
    >
      {open && (
        <WordMenu
          typed={null}
          groups={grouped(additionsTo(sentence.statement, row, known), sentence)}
          without={null}
          now={peeks ? sentence.now : null}
          done={(text) => {
            setOpen(false);
            change(text);
          }}
        />
      )}
    </Pop>
  );
}

/** What is added, by what it is. */
const GROUPS: Partial<Record<NonNullable<Choice['slot']>, string>> = {
  exit: 'Exits',
  pricing: 'At which price',
  shift: 'So far from the price',
  life: 'How long it works, and where',
  chained: 'Once it is filled',
  condition: 'Not yet: once something comes',
  conjunct: 'Or, and',
  clause: 'Or, and',
};
const ELSE = 'More';
const ORDER = [...new Set([...Object.values(GROUPS), ELSE])];

const grouped = (choices: readonly Choice[], sentence: Sentence) =>
  ORDER.map((name) => ({
    name,
    offers: choices
      .filter((c) => ((c.slot && GROUPS[c.slot]) ?? ELSE) === name && sentence.allows(c.statement))
      .map((c) => ({ text: c.text, says: c.says, whole: sentence.text(c.statement) })),
  }));

/** A further sentence, from what the trader wants to do. */
function NewLine({ text, change }: { text: string; change(text: string): void }) {
  const [open, setOpen] = useState(false);
  const [task, setTask] = useState<(typeof TASKS)[number] | null>(null);
  const before = text.trim() === '' ? '' : `${text.trimEnd()}\n`;
  return (
    <Pop
      title="Add a sentence"
      open={open}
      onOpenChange={(to) => {
        setOpen(to);
        setTask(null);
      }}
      data-word
      className="btn mt-1 justify-self-start text-[13px]"
      label={before === '' ? 'What should it do?' : 'And then …'}
    >
      {task === null ? (
        <ul className="grid w-[320px] p-1.5" aria-label="What it should do">
          {TASKS.map((t) => (
            <li key={t.name}>
              <button
                type="button"
                className="flex w-full items-baseline gap-2 px-2 py-1 text-left hover:bg-line"
                onClick={() => setTask(t)}
              >
                <b>{t.name}</b> <span className="text-[13px] text-quiet">{t.says}</span>
              </button>
            </li>
          ))}
        </ul>
      ) : (
        <WordMenu
          key={task.name}
          typed={null}
          groups={[
            {
              name: task.name,
              offers: task.kinds.map((kind) => {
                const written = printTree(begin(kind));
                return { text: oneLine(written), says: '', whole: before + written };
              }),
            },
          ]}
          without={null}
          now=""
          done={(made) => {
            setOpen(false);
            change(made);
          }}
        />
      )}
    </Pop>
  );
}
