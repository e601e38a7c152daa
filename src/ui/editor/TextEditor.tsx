'use client';

import {
  acceptCompletion,
  autocompletion,
  type Completion,
  type CompletionContext,
  type CompletionResult,
  closeCompletion,
  completionKeymap,
  selectedCompletionIndex,
  startCompletion,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { type Diagnostic, linter } from '@codemirror/lint';
import { EditorState, type Extension, Prec } from '@codemirror/state';
import {
  Decoration,
  type DecorationSet,
  EditorView,
  placeholder as ghost,
  hoverTooltip,
  keymap,
  tooltips,
  ViewPlugin,
  type ViewUpdate,
} from '@codemirror/view';
import { useEffect, useLayoutEffect, useRef } from 'react';
import { choicesFor, explain, oneLine, parseExits, parseRule, parseScript } from '@/core/language';
import { useSession } from '../client';

/** What is known of the words that may be offered: their value now, and what they mean. */
export interface WordInfo {
  detail: string;
  meaning?: string;
  /** What is put in when the word is chosen, where that is more than the word. */
  apply?: string;
}

export interface TextEditorProps {
  kind: 'script' | 'rule' | 'plan';
  value: string;
  change(text: string): void;
  label: string;
  placeholder?: string;
  /** Fills the height that it is given, instead of growing with its lines. */
  fill?: boolean;
  /** In a narrow place. */
  small?: boolean;
  about(word: string): WordInfo | null;
  /** What is selected at the start, for one who was in the text already. */
  selection?: readonly [number, number] | null;
  /** Ctrl+Enter; in a rule Enter as well. */
  submit?(text: string): void;
}

const look = EditorView.theme({
  '&': {
    background: 'var(--ground)',
    color: 'var(--text)',
    fontSize: '14px',
    border: '1px solid var(--line)',
    borderRadius: '3px',
  },
  '&.cm-focused': { outline: '2px solid var(--focus)', outlineOffset: '1px' },
  '.cm-content': { fontFamily: 'var(--font-mono)', caretColor: 'var(--text)', padding: '5px 4px' },
  '.cm-cursor': { borderLeftColor: 'var(--text)' },
  '.cm-tooltip': { background: 'var(--raised)', color: 'var(--text)', border: '1px solid var(--line)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { background: 'var(--line)', color: 'var(--text)' },
  '.cm-completionDetail': { color: 'var(--quiet)', fontStyle: 'normal', marginLeft: '1.5em', float: 'right' },
  '.cm-completionInfo': { maxWidth: '320px', whiteSpace: 'normal', fontFamily: 'var(--font-sans)' },
  '.cm-diagnostic': { fontFamily: 'var(--font-sans)', fontSize: '13px', borderLeft: '3px solid var(--down)' },
  '.cm-diagnosticAction': {
    background: 'var(--line)',
    color: 'var(--text)',
    fontFamily: 'var(--font-mono)',
    borderRadius: '3px',
    padding: '2px 6px',
  },
  '.cm-placeholder': { color: 'var(--quiet)' },
  '.mark-verb': { color: 'var(--text)', fontWeight: '700' },
  '.mark-word': { color: 'var(--quiet)' },
  '.mark-size, .mark-price': { color: 'var(--text)' },
  '.mark-price, .mark-field': { fontWeight: '600' },
  '.mark-offset, .mark-value, .mark-time': { color: 'var(--condition)' },
  '.mark-symbol, .mark-name': { color: 'var(--focus)' },
  '.mark-comment': { color: 'var(--quiet)', fontStyle: 'italic' },
});

const read = (kind: TextEditorProps['kind'], text: string) => {
  if (kind === 'script') {
    const listed = useSession.getState().symbols ?? [];
    const { marks, problems } = parseScript(text, (symbol) => listed.includes(symbol));
    return { marks, problems };
  }
  if (kind === 'plan') return parseExits(text);
  const parsed = parseRule(text);
  return { marks: parsed.marks, problems: parsed.ok ? [] : [parsed.problem] };
};

/** Colours by what the parser says of each word. */
const colours = (kind: TextEditorProps['kind']): Extension => {
  const paint = (view: EditorView): DecorationSet => {
    const text = view.state.doc.toString();
    return Decoration.set(
      read(kind, text).marks.map((m) => Decoration.mark({ class: `mark-${m.role}` }).range(m.from, m.to)),
      true,
    );
  };
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor(view: EditorView) {
        this.decorations = paint(view);
      }
      update(u: ViewUpdate) {
        if (u.docChanged) this.decorations = paint(u.view);
      }
    },
    { decorations: (p) => p.decorations },
  );
};

/** Mistakes underlined; each with what would mend it by one press. */
const mistakes = (kind: TextEditorProps['kind']): Extension =>
  linter(
    (view): Diagnostic[] => {
      const text = view.state.doc.toString();
      if (text.trim() === '') return [];
      return read(kind, text).problems.map((p) => ({
        from: Math.min(p.span.from, text.length),
        to: Math.min(Math.max(p.span.to, p.span.from), text.length),
        severity: 'error',
        message: explain(p),
        actions: p.fixes.map((f) => ({
          name: f.text.trim() === '' ? 'leave it out' : oneLine(f.text.trim()),
          apply: (v: EditorView) => v.dispatch({ changes: { from: f.from, to: f.to, insert: f.text } }),
        })),
      }));
    },
    { delay: 250 },
  );

const complete =
  (kind: TextEditorProps['kind'], about: () => TextEditorProps['about']) =>
  (c: CompletionContext): CompletionResult | null => {
    // What is offered once the hand has left would cover what is looked at then.
    if (c.view && !c.view.hasFocus) return null;
    const before = c.state.doc.toString().slice(0, c.pos);
    const { from, choices, whole } = choicesFor(kind === 'plan' ? 'script' : kind, before);
    if (choices.length === 0) return null;
    // What stands there is a word as it is, and nothing has begun: both are left alone until more is asked for.
    if (!c.explicit && (whole || (from === c.pos && !/[ (]$/.test(before)))) return null;
    return {
      from,
      options: choices.map((label): Completion => {
        const info = about()(label);
        return {
          label,
          ...(info
            ? {
                detail: info.detail,
                ...(info.meaning ? { info: info.meaning } : {}),
                ...(info.apply ? { apply: info.apply } : {}),
              }
            : {}),
        };
      }),
    };
  };

/** The window of an editor, less a margin. */
const within = ({ dom }: EditorView) => {
  const { innerWidth, innerHeight } = dom.ownerDocument.defaultView ?? window;
  return { left: MARGIN, top: MARGIN, right: innerWidth - MARGIN, bottom: innerHeight - MARGIN };
};
const MARGIN = 6;

/** Enter takes a choice for a word that has begun, or one that was gone to; behind a blank it is for the line. */
const taken = (v: EditorView): boolean => {
  const begun = /\S$/.test(v.state.sliceDoc(0, v.state.selection.main.head));
  if (begun || (selectedCompletionIndex(v.state) ?? 0) > 0) return acceptCompletion(v);
  closeCompletion(v);
  return false;
};

/** Over a word that has a value: what it means, and the value now. */
const meaning = (kind: TextEditorProps['kind'], about: () => TextEditorProps['about']): Extension =>
  hoverTooltip((view, pos) => {
    const text = view.state.doc.toString();
    const at = read(kind, text).marks.filter((m) => m.role === 'price' || m.role === 'field');
    const here = at.findIndex((m) => pos >= m.from && pos <= m.to);
    if (here < 0) return null;
    let [first, last] = [here, here];
    while (first > 0 && text.slice(at[first - 1]?.to, at[first]?.from) === ' ') first--;
    while (last < at.length - 1 && text.slice(at[last]?.to, at[last + 1]?.from) === ' ') last++;
    const [from, to] = [at[first]?.from ?? pos, at[last]?.to ?? pos];
    const info = about()(text.slice(from, to).toLowerCase());
    if (!info) return null;
    return {
      pos: from,
      end: to,
      create() {
        const dom = document.createElement('div');
        dom.className = 'max-w-80 px-3 py-2 text-[13px] font-sans';
        dom.textContent = [info.meaning, info.detail].filter(Boolean).join(' Now: ');
        return { dom };
      },
    };
  });

/** A text of the language: coloured, completed with live values, its mistakes underlined and mended by one press. */
export default function TextEditor(props: TextEditorProps) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });
  // What was typed here and has not come back yet: an older text that comes back late must not replace a newer one.
  const sent = useRef<string[]>([]);
  const { kind, value, label, placeholder, fill, small } = props;
  /** The text that came in last: only another one replaces what stands here. */
  const given = useRef(value);
  // Before the next key: one who is typing goes on typing.
  useLayoutEffect(() => {
    if (!host.current) return;
    const about = () => latest.current.about;
    // What stands here goes, not what has come back of it.
    const send = (v: EditorView) => {
      latest.current.submit?.(v.state.doc.toString());
      return latest.current.submit !== undefined;
    };
    const editor = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: given.current,
        extensions: [
          history(),
          Prec.high(
            keymap.of([
              { key: 'Enter', run: taken },
              { key: 'Mod-Enter', run: send },
              { key: 'Alt-ArrowDown', run: startCompletion },
              // A rule is one line; Tab always leaves, so that the keyboard can.
              ...(kind === 'rule' ? [{ key: 'Enter', run: () => true }] : []),
            ]),
          ),
          Prec.high(keymap.of(completionKeymap.filter((k) => k.key !== 'Enter'))),
          keymap.of([...defaultKeymap, ...historyKeymap]),
          colours(kind),
          // Nothing that is offered is cut off at the edge of the window.
          tooltips({ tooltipSpace: within }),
          autocompletion({
            override: [complete(kind, about)],
            icons: false,
            activateOnTyping: true,
            defaultKeymap: false,
          }),
          mistakes(kind),
          meaning(kind, about),
          look,
          EditorView.theme({
            ...(fill
              ? { '&': { height: '100%' }, '.cm-scroller': { overflow: 'auto' } }
              : { '.cm-scroller': { maxHeight: '84px' } }),
            ...(small ? { '.cm-content': { fontSize: '13px', lineHeight: '18px', padding: '3px 2px' } } : {}),
          }),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false', tabindex: '0' }),
          ghost(placeholder ?? ''),
          EditorView.updateListener.of((u) => {
            if (!u.docChanged) return;
            const text = u.state.doc.toString();
            sent.current.push(text);
            latest.current.change(text);
          }),
        ],
      }),
    });
    view.current = editor;
    const selected = latest.current.selection;
    if (selected) {
      const [anchor, head] = selected.map((at) => Math.min(at, editor.state.doc.length)) as [number, number];
      editor.dispatch({ selection: { anchor, head } });
      editor.focus();
    }
    return () => editor.destroy();
  }, [kind, label, placeholder, fill, small]);
  useEffect(() => {
    if (value === given.current) return;
    given.current = value;
    const editor = view.current;
    const own = sent.current.indexOf(value);
    if (own >= 0) {
      sent.current.splice(0, own + 1);
      return;
    }
    if (editor && editor.state.doc.toString() !== value)
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);
  return <div ref={host} className={fill ? 'h-full min-h-0' : ''} data-testid={`${kind}-editor`} />;
}
