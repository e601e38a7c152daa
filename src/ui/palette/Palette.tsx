'use client';

import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useMemo, useState } from 'react';
import { useSettings } from '../settings';
import { commandsFor, type Command as Doing, keysNow } from './commands';

const GROUPS: readonly Doing['group'][] = ['Do', 'Symbols', 'Scripts', 'Go to', 'Plans', 'Time', 'Settings'];
const RECENT = 6;

/** Finds anything by typing and does it: a sentence, a symbol, a script, a view, a plan, time, a setting; with its key, or why it is off. */
export function Palette({ close }: { close(): void }) {
  const [typed, setTyped] = useState('');
  const [page, setPage] = useState<'all' | 'keys'>('all');
  const router = useRouter();
  const recent = useSettings((s) => s.recent);
  const set = useSettings((s) => s.set);
  const commands = useMemo(() => commandsFor(typed), [typed]);
  const choose = (c: Doing) => {
    if (c.off !== null) return;
    close();
    if (!c.typed) set({ recent: [c.id, ...recent.filter((id) => id !== c.id)].slice(0, RECENT) });
    c.run((path) => router.push(path));
  };
  const last = typed === '' ? recent.flatMap((id) => commands.find((c) => c.id === id) ?? []) : [];
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ground/60" />
        <Dialog.Content
          className="panel fixed top-[14%] left-1/2 z-50 w-[640px] -translate-x-1/2 bg-raised shadow-lg"
          aria-describedby={undefined}
        >
          <Dialog.Title className="sr-only">Find anything and do it</Dialog.Title>
          {page === 'keys' ? (
            <Legend back={() => setPage('all')} />
          ) : (
            <Command label="Find anything and do it" loop filter={match}>
              <Command.Input
                className="field num w-full rounded-none border-0 border-b px-4 py-3 text-[16px]"
                placeholder="a sentence, a symbol, a script, a view, a setting …"
                value={typed}
                onValueChange={setTyped}
              />
              <Command.List className="max-h-[420px] overflow-y-auto p-2">
                <Command.Empty className="px-3 py-4 text-quiet">
                  Nothing is called that, and it does not read as a sentence.
                </Command.Empty>
                {last.length > 0 && (
                  <Command.Group heading={<Heading text="Lately" />}>
                    {last.map((c) => (
                      <Item key={c.id} command={c} value={`lately ${c.id}`} choose={choose} />
                    ))}
                  </Command.Group>
                )}
                {GROUPS.map((group) => {
                  const mine = commands.filter((c) => c.group === group);
                  return (
                    mine.length > 0 && (
                      <Command.Group key={group} heading={<Heading text={group} />}>
                        {mine.map((c) => (
                          <Item key={c.id} command={c} value={c.id} choose={choose} />
                        ))}
                      </Command.Group>
                    )
                  );
                })}
                <Command.Group heading={<Heading text="Help" />}>
                  <Command.Item
                    value="every key legend"
                    keywords={['Every key, and what it does', 'legend help shortcuts']}
                    className="flex items-baseline gap-3 rounded px-3 py-1 data-[selected=true]:bg-line"
                    onSelect={() => setPage('keys')}
                  >
                    Every key, and what it does
                  </Command.Item>
                </Command.Group>
              </Command.List>
            </Command>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Every word that is typed has to stand there as it is: what is done by Enter must not be found by accident. The name counts most. */
function match(_value: string, typed: string, [name = '', ...words]: string[] = []): number {
  const wanted = typed.toLowerCase().trim();
  const all = [name, ...words].join(' ').toLowerCase();
  if (!wanted.split(/\s+/).every((w) => all.includes(w))) return 0;
  const at = name.toLowerCase().indexOf(wanted);
  return at === 0 ? 1 : at > 0 ? 0.8 : 0.4;
}

const Heading = ({ text }: { text: string }) => (
  <span className="heading block px-3 pt-2 pb-0.5">{text}</span>
);

function Item({ command: c, value, choose }: { command: Doing; value: string; choose(c: Doing): void }) {
  return (
    <Command.Item
      value={value}
      keywords={[c.name, c.words ?? '', c.group]}
      aria-disabled={c.off !== null}
      className="flex items-baseline gap-3 rounded px-3 py-1 data-[selected=true]:bg-line"
      onSelect={() => choose(c)}
    >
      <span className={`shrink-0 ${c.off === null ? '' : 'text-quiet'}`}>{c.name}</span>
      {c.off !== null && (
        <span className="min-w-0 truncate text-[13px] text-quiet" title={c.off}>
          ⊘ {c.off}
        </span>
      )}
      {c.key && <kbd className="num ml-auto shrink-0 text-[13px] text-focus">{c.key}</kbd>}
    </Command.Item>
  );
}

/** The keys that do something now. */
function Legend({ back }: { back(): void }) {
  return (
    <div className="p-4">
      <h2 className="mb-2 font-semibold">Every key, and what it does</h2>
      <ul className="grid max-h-[420px] grid-cols-2 gap-x-6 gap-y-0.5 overflow-y-auto text-[13px]">
        {keysNow().map(({ key, does }) => (
          <li key={key + does} className="flex gap-3">
            <kbd className="num w-32 shrink-0 font-bold text-focus">{key}</kbd>
            <span className="min-w-0">{does}</span>
          </li>
        ))}
      </ul>
      <button type="button" className="btn mt-3" autoFocus onClick={back}>
        Back
      </button>
    </div>
  );
}
