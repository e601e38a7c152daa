'use client';

import { useState } from 'react';
import { act, peekAt } from '../session';

/** The ticket is a sentence: write it, see what it would do, send it. */
export function Sentence() {
  const [text, setText] = useState('buy 100 at ask + 2c extended\n  stop 20c\n  target 2R');
  return (
    <form
      className="panel px-3 py-2"
      aria-label="Ticket"
      onSubmit={(e) => {
        e.preventDefault();
        void act(text, 'ticket', 'Ticket');
      }}
    >
      <label className="heading block" htmlFor="sentence">
        Ticket: an order sentence
      </label>
      <textarea
        id="sentence"
        className="field num mt-1 h-[84px] w-full resize-none text-[13px]"
        spellCheck={false}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey)) return;
          e.preventDefault();
          void act(text, 'ticket', 'Ticket');
        }}
      />
      <div className="mt-1 flex gap-2">
        <button type="button" className="btn" onClick={() => void peekAt(text, 'Ticket')}>
          Peek
        </button>
        <button type="submit" className="btn grow">
          Send (Ctrl+Enter)
        </button>
      </div>
    </form>
  );
}
