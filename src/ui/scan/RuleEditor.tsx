'use client';

import { autocompletion, type Completion, type CompletionContext, type CompletionResult, completionKeymap } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { type Diagnostic, linter } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, hoverTooltip, keymap, placeholder } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useRef } from 'react';
import { FIELDS, fieldText } from '@/core/market';
import { explain, parseRule } from '@/core/script';
import { firstClause, offerAt } from './rule-words';

interface Props {
  value: string;
  change(text: string): void;
  /** Every field of the focus now, for the values beside completions. */
  values: Float64Array | null;
  symbol: string;
}

const NAMES = [...FIELDS].sort((a, b) => b.name.length - a.name.length).map((f) => f.name);
const ONE_FIELD = new RegExp(`^(${NAMES.join('|')})\\b`, 'i');

/** Colours for the parts of a rule. What it means is decided by the parser alone. */
const ruleLanguage = StreamLanguage.define<null>({
  startState: () => null,
  token(stream) {
    if (stream.eatSpace()) return null;
    if (stream.match(/^#.*/)) return 'comment';
    if (stream.match(/^(and|or|not|between|is)\b/i)) return 'keyword';
    if (stream.match(ONE_FIELD)) return 'variableName';
    if (stream.match(/^-?\$?[\d.,]+(c|%|k|K|M|m|x)?/)) return 'number';
    if (stream.match(/^(>=|<=|>|<)/)) return 'operator';
    if (stream.match(/^\w+/)) return 'string';
    stream.next();
    return null;
  },
});

const colours = HighlightStyle.define([
  { tag: tags.keyword, color: 'var(--quiet)' },
  { tag: tags.variableName, color: 'var(--text)', fontWeight: '600' },
  { tag: tags.number, color: 'var(--condition)' },
  { tag: tags.string, color: 'var(--condition)' },
  { tag: tags.operator, color: 'var(--quiet)' },
  { tag: tags.comment, color: 'var(--quiet)', fontStyle: 'italic' },
]);

const look = EditorView.theme({
  '&': { background: 'var(--ground)', color: 'var(--text)', fontSize: '14px', border: '1px solid var(--line)', borderRadius: '3px' },
  '&.cm-focused': { outline: '2px solid var(--focus)', outlineOffset: '1px' },
  '.cm-content': { fontFamily: 'var(--font-mono)', caretColor: 'var(--text)', padding: '5px 4px' },
  '.cm-scroller': { maxHeight: '84px' },
  '.cm-cursor': { borderLeftColor: 'var(--text)' },
  '.cm-tooltip': { background: 'var(--raised)', color: 'var(--text)', border: '1px solid var(--line)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { background: 'var(--line)', color: 'var(--text)' },
  '.cm-completionDetail': { color: 'var(--quiet)', fontStyle: 'normal', marginLeft: '1.5em', float: 'right' },
  '.cm-completionInfo': { maxWidth: '320px', whiteSpace: 'normal', fontFamily: 'var(--font-sans)' },
  '.cm-diagnostic': { fontFamily: 'var(--font-sans)', fontSize: '13px', borderLeft: '3px solid var(--down)' },
  '.cm-placeholder': { color: 'var(--quiet)' },
});

/** Completions with the field's value for the focus beside it, its formula, and what may follow. */
const complete =
  (live: () => { values: Float64Array | null; symbol: string }) =>
  (c: CompletionContext): CompletionResult | null => {
    const offer = offerAt(c.state.doc.toString().slice(0, c.pos), c.explicit);
    if (!offer) return null;
    const { values, symbol } = live();
    return {
      from: offer.from,
      options: offer.choices
        ? offer.choices.map((label): Completion => ({ label, type: 'constant' }))
        : FIELDS.map((f, k) => ({
            label: f.name,
            detail: values ? `${symbol} ${fieldText(f, values[k] as number)}` : '',
            info: f.meaning,
            apply: firstClause(f),
            type: 'variable',
          })),
      validFor: /^[a-z0-9 ]*$/i,
    };
  };

/** Over a field: what it means, and its value for the focus now. */
const meaning = (live: () => { values: Float64Array | null; symbol: string }) =>
  hoverTooltip((view, pos) => {
    const text = view.state.doc.toString().toLowerCase();
    for (const name of NAMES) {
      for (let at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1)) {
        if (pos < at || pos > at + name.length) continue;
        const k = FIELDS.findIndex((f) => f.name === name);
        const field = FIELDS[k];
        if (!field) return null;
        return {
          pos: at,
          end: at + name.length,
          create() {
            const { values, symbol } = live();
            const dom = document.createElement('div');
            dom.className = 'max-w-80 px-3 py-2 text-[13px] font-sans';
            dom.textContent = `${field.meaning}${values ? ` ${symbol} now: ${fieldText(field, values[k] as number)}` : ''}`;
            return { dom };
          },
        };
      }
    }
    return null;
  });

const check = linter(
  (view): Diagnostic[] => {
    const text = view.state.doc.toString();
    const parsed = parseRule(text);
    if (parsed.ok) return [];
    const { from, to } = parsed.problem.span;
    return [{ from: Math.min(from, text.length), to: Math.min(Math.max(to, from), text.length), severity: 'error', message: explain(parsed.problem) }];
  },
  { delay: 250 },
);

/** The rule as text: coloured, completed with live values, its mistakes underlined. */
export default function RuleEditor({ value, change, values, symbol }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const live = useRef({ values, symbol });
  live.current = { values, symbol };
  const latest = useRef(change);
  latest.current = change;
  const initial = useRef(value);
  // What was typed here and has not come back yet: an older text that comes back late must not replace a newer one.
  const sent = useRef<string[]>([]);
  useEffect(() => {
    if (!host.current) return;
    const editor = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: initial.current,
        extensions: [
          history(),
          keymap.of([...completionKeymap, ...defaultKeymap.filter((k) => k.key !== 'Enter'), ...historyKeymap]),
          ruleLanguage,
          syntaxHighlighting(colours),
          autocompletion({ override: [complete(() => live.current)], icons: false }),
          check,
          meaning(() => live.current),
          look,
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': 'Rule of the scan', spellcheck: 'false' }),
          placeholder('gap > 8% and price between 2 and 20'),
          EditorView.updateListener.of((u) => {
            if (!u.docChanged) return;
            const text = u.state.doc.toString();
            sent.current.push(text);
            latest.current(text);
          }),
        ],
      }),
    });
    view.current = editor;
    return () => editor.destroy();
  }, []);
  useEffect(() => {
    const editor = view.current;
    const own = sent.current.indexOf(value);
    if (own >= 0) {
      sent.current.splice(0, own + 1);
      return;
    }
    if (editor && editor.state.doc.toString() !== value) editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);
  return <div ref={host} data-testid="rule-editor" />;
}
