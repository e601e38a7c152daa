'use client';

import { useRef } from 'react';

/** A button that asks for a file; the same one can be chosen again. `label` names what is asked for. */
export function FileButton({
  label,
  accept,
  take,
  children,
}: {
  label: string;
  accept: string;
  take(file: File): void;
  children: string;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        accept={accept}
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          if (file) take(file);
          e.target.value = '';
        }}
      />
      <button type="button" className="btn" onClick={() => input.current?.click()}>
        {children}
      </button>
    </>
  );
}
