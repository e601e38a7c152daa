'use client';

import dynamic from 'next/dynamic';
import type { ComponentProps } from 'react';
import { useWords } from './useWords';

const TextEditor = dynamic(() => import('./TextEditor'), {
  ssr: false,
  loading: () => <div className="field h-full text-quiet">The editor is loading.</div>,
});

/** A script in the editor, with the values that prices and fields have for the focus now. */
export function ScriptEditor(props: Omit<ComponentProps<typeof TextEditor>, 'kind' | 'about' | 'fill'>) {
  const about = useWords();
  return <TextEditor kind="script" fill about={about} {...props} />;
}
