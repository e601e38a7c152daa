'use client';

import { type ComponentProps, useEffect, useState } from 'react';
import { flushSync } from 'react-dom';
import type TextEditor from './TextEditor';
import { useWords } from './useWords';

type Editor = typeof TextEditor;
type Props = Omit<ComponentProps<Editor>, 'kind' | 'about' | 'fill' | 'selection'> & {
  /** The editor is fetched only when somebody goes into it, so that the view is there sooner. */
  later?: boolean;
  /** Exits only, as in a plan. */
  exits?: boolean;
};

/** A script in the editor, with the values that prices and fields have for the focus now; a plain field until the editor is there. */
export function ScriptEditor({ later = false, ...props }: Props) {
  const [wanted, setWanted] = useState(!later);
  /** The editor once it is there, and what was selected in the plain field; null where the trader was not in it. */
  const [there, setThere] = useState<{ Editor: Editor; selection: readonly [number, number] | null } | null>(
    null,
  );
  const { value, change, label, submit, small, placeholder } = props;
  useEffect(() => {
    if (!wanted) return;
    let current = true;
    void import('./TextEditor').then(({ default: Editor }) => {
      if (!current) return;
      const field = document.activeElement;
      const inIt = field instanceof HTMLTextAreaElement && field.getAttribute('aria-label') === label;
      // At once: a key between the look and the change would be lost.
      flushSync(() =>
        setThere({ Editor, selection: inIt ? [field.selectionStart, field.selectionEnd] : null }),
      );
    });
    return () => {
      current = false;
    };
  }, [wanted, label]);
  if (there) return <Ready {...props} Editor={there.Editor} selection={there.selection} />;
  return (
    <textarea
      className={`field num h-full w-full resize-none ${small ? 'text-[13px] leading-[18px]' : 'text-[14px]'}`}
      aria-label={label}
      spellCheck={false}
      placeholder={placeholder}
      value={value}
      onFocus={() => setWanted(true)}
      onPointerEnter={() => setWanted(true)}
      onChange={(e) => change(e.target.value)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey) || !submit) return;
        e.preventDefault();
        submit(e.currentTarget.value);
      }}
    />
  );
}

/** The editor itself, which asks for live values only once it is there. */
function Ready({
  Editor,
  exits = false,
  ...props
}: Omit<ComponentProps<Editor>, 'kind' | 'about' | 'fill'> & { Editor: Editor; exits?: boolean }) {
  const about = useWords();
  return <Editor kind={exits ? 'plan' : 'script'} fill about={about} {...props} />;
}
