'use client';

import dynamic from 'next/dynamic';
import Link from 'next/link';
import { act, peekAt } from '../client';
import { ScriptEditor } from '../editor/ScriptEditor';
import { Pop } from '../primitives/Pop';
import { useSettings } from '../settings';
import { stepTicket, useTicketText } from '../trade/ticket-text';

/** With the language it reads, fetched only when somebody opens it. */
const SentenceRows = dynamic(() => import('../builder/SentenceRows').then((m) => m.SentenceRows), {
  ssr: false,
  loading: () => <p className="text-quiet">The words are on their way.</p>,
});

const TicketMenu = dynamic(() => import('../ticket/TicketMenu').then((m) => m.TicketMenu), { ssr: false });
const TicketForm = dynamic(() => import('../ticket/TicketForm').then((m) => m.TicketForm), {
  ssr: false,
  loading: () => <p className="text-quiet">The form is on its way.</p>,
});

/** The ticket is a sentence: write it, see what it would do, send it; `steps`: its limit goes up and down by buttons too. */
export function Sentence({ steps = false }: { steps?: boolean }) {
  const { text, set: setText } = useTicketText();
  const form = useSettings((s) => s.ticketForm);
  const set = useSettings((s) => s.set);
  const send = (sentence: string) => void act(sentence, 'ticket', 'Ticket');
  return (
    <section className="panel flex h-full min-h-0 flex-col px-3 py-2" aria-label="Ticket">
      <div className="flex items-baseline">
        <h2 className="heading">Ticket</h2>
        <button
          type="button"
          className="mr-2 ml-auto text-[12px] text-quiet underline"
          aria-pressed={form}
          onClick={() => set({ ticketForm: !form })}
        >
          {form ? 'as text' : 'as a form'}
        </button>
        <TicketMenu />
        <Pop
          title="The ticket in words"
          label="in words"
          className="mr-2 text-[12px] whitespace-nowrap text-quiet underline"
        >
          <div className="w-[560px] p-3">
            <SentenceRows label="Ticket in words" text={text} change={setText} />
          </div>
        </Pop>
        <Link
          href="/keys/reference"
          prefetch={false}
          className="text-[12px] text-quiet underline"
          aria-label="All words of the language"
        >
          words
        </Link>
      </div>

      <div
        className="mt-1 min-h-[64px] grow overflow-y-auto text-[13px]"
        onKeyDownCapture={(e) => {
          if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
          e.preventDefault();
          e.stopPropagation();
          void stepTicket(e.key === 'ArrowUp' ? 1 : -1);
        }}
      >
        {form ? (
          <TicketForm text={text} change={setText} />
        ) : (
          <ScriptEditor
            later
            label="Ticket: an order sentence"
            small
            value={text}
            change={setText}
            submit={send}
          />
        )}
      </div>
      {!form && (
        <div className="mt-1 flex gap-2">
          <button type="button" className="btn" onClick={() => void peekAt(text, 'Ticket')}>
            Peek
          </button>
          {steps && (
            <>
              <button
                type="button"
                className="btn px-2"
                title="The limit a step down (Alt+↓)"
                aria-label="Limit a step down"
                onClick={() => void stepTicket(-1)}
              >
                −
              </button>
              <button
                type="button"
                className="btn px-2"
                title="The limit a step up (Alt+↑)"
                aria-label="Limit a step up"
                onClick={() => void stepTicket(1)}
              >
                +
              </button>
            </>
          )}
          <button type="button" className="btn grow" onClick={() => send(text)}>
            Send (Ctrl+Enter)
          </button>
        </div>
      )}
    </section>
  );
}
