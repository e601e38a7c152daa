import { purposeOf } from '../../core/language/index.ts';
import type { Engine } from '../../session/engine.ts';
import { peek } from '../../session/peek.ts';
import { parsed } from '../../session/read-texts.ts';
import type { Peeked } from './slices.ts';

/** What a script would do now, as the interface shows it. */
export function peekedAt(engine: Engine, text: string, focus: string, cursor: number | null = null): Peeked {
  const { lines, problem, fixes, lasting, retired } = peek(engine, text, focus, cursor);
  const refused = lines.find((l) => l.problem);
  const first = lines.find((l) => l.facts);
  return {
    text,
    focus,
    problem,
    fixes,
    lasting,
    retired,
    code: refused?.problem?.reason.code ?? null,
    sayBack: lines.map((l) => l.sayBack),
    about: lines.map((l) => l.about),
    guesses: lines.map((l) => l.guess),
    warnings: lines.flatMap((l) => l.warnings),
    named: lines.flatMap((l) => l.named),
    facts: first?.facts ?? null,
    of: first?.symbol ?? focus,
    addsRisk: lines.some((l) => l.addsRisk),
    asks: lines.flatMap((l) => l.asks),
    purpose: purposeOf(parsed(text).statements),
  };
}
