'use client';

import { Component, type ReactNode } from 'react';

interface Props {
  children: ReactNode;
  /** What stands there instead, with why, and how to try again. */
  instead: (trouble: string, again: () => void) => ReactNode;
}

/** Keeps what cannot be drawn from taking the rest of the page with it. */
export class Boundary extends Component<Props, { trouble: string | null }> {
  override state = { trouble: null as string | null };
  static getDerivedStateFromError(e: unknown) {
    return { trouble: e instanceof Error ? e.message : String(e) };
  }
  override render() {
    const { trouble } = this.state;
    if (trouble === null) return this.props.children;
    return this.props.instead(trouble, () => this.setState({ trouble: null }));
  }
}

/** A part of what stands around the views: where it cannot be drawn it says so in its place, and everything else works. */
export function Part({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Boundary
      instead={(trouble, again) => (
        <span role="alert" className="flex items-center gap-2 overflow-hidden px-2" title={trouble}>
          ⚠ {name} cannot be shown
          <button type="button" className="btn" onClick={again}>
            Show it again
          </button>
        </span>
      )}
    >
      {children}
    </Boundary>
  );
}
