'use client';

import {
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { snapped } from '@/core/drawings';
import type { PricePoint } from '@/core/market';
import { type Price, roundToTick, tickSize } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import type { DrawingKind } from '@/store/drawing';
import { act, discard, peekAt, pointer, sliceOf, useSession } from '../client';
import { draw, remember } from './drawn';
import { type Frame, indexAt, timeAt } from './frame';
import { type Item, nextId } from './items';
import { pointedNow } from './pointed-now';
import { freeName, levelSentence, type Pointing, pointedSentence } from './pointing';
import { factsOf, sends, type Tool, type ToolKind } from './tools';
import type { Candle } from './useChartData';

/** How near a level, in pixels, a click snaps to it. */
const SNAP = 7;

interface On {
  symbol: string | undefined;
  frame: Frame | null;
  candles: readonly Candle[];
  minutes: number;
  /** Prices that a click snaps to, beside the named levels. */
  levels: readonly number[];
}

/** A line or an alert sends nothing and is not asked about; an entry is, as a drag is. */
const originOf = (what: Pointing) => (what === 'buy' || what === 'short' ? 'drags' : 'tools');

/** The tool in hand on a chart, and what pointer and keys do with it. */
export function useTool({ symbol, frame, candles, minutes, levels }: On) {
  const [tool, setTool] = useState<Tool | null>(null);
  const [under, setUnder] = useState<PricePoint | null>(null);
  const [noteAt, setNoteAt] = useState<PricePoint | null>(null);
  const asked = useRef('');
  // What was begun on the chart of one symbol is not finished on that of another.
  // biome-ignore lint/correctness/useExhaustiveDependencies: with each other symbol
  useEffect(() => {
    setTool(null);
    setUnder(null);
    setNoteAt(null);
  }, [symbol]);
  const leave = () => {
    setTool(null);
    setUnder(null);
    if (asked.current !== '' && useSession.getState().sayBack.kind === 'peek') discard();
    asked.current = '';
  };

  /** The point under the pointer: its price snaps to levels near it. */
  const pointAt = (f: Frame, x: number, y: number): PricePoint => {
    const named = Object.values(useSession.getState().desk?.levels[symbol ?? ''] ?? {});
    const reach = Math.abs(f.priceAt(y) - f.priceAt(y + SNAP));
    return {
      at: timeAt(candles, minutes, (x - f.x(0)) / f.step),
      price: snapped(
        f.priceAt(y),
        [...levels, ...named.filter((l): l is Price => typeof l === 'number')],
        reach,
      ),
    };
  };
  const sentence = (what: Pointing, p: PricePoint) =>
    pointedSentence(what, p.price as Price, pointedNow(symbol, what));
  const hover = (p: PricePoint) => {
    if (!tool) return;
    if (!sends(tool.kind)) return setUnder(p);
    if (tool.kind === 'level' || tool.kind === 'alert') return;
    const text = sentence(tool.kind, p);
    if (text === asked.current) return;
    asked.current = text;
    void peekAt(text, 'Chart');
  };
  const take = (p: PricePoint) => {
    if (!tool || symbol === undefined) return;
    const { kind } = tool;
    if (sends(kind)) {
      if (kind === 'level') remember(symbol);
      void act(sentence(kind, p), originOf(kind), 'Chart');
      asked.current = '';
      return leave();
    }
    if (kind === 'note') {
      setNoteAt(p);
      return leave();
    }
    const points = [...tool.points, p];
    if (points.length < factsOf(kind).clicks) return setTool({ kind, points });
    finish(symbol, kind, points);
    leave();
  };
  const finish = (of: string, kind: ToolKind, points: readonly PricePoint[], text = '') => {
    remember(of);
    const [a, b] = points as [PricePoint, PricePoint];
    const today = useSession.getState().clock?.dayStart ?? 0;
    if (kind === 'trend' && minutes < DAY_CANDLE && a.at !== b.at && a.at >= today && b.at >= today) {
      const name = freeName('trend', pointedNow(of, 'level').names);
      return void act(levelSentence(name, of, { from: a, to: b }), 'tools', 'Chart');
    }
    // A slope through days gone by says something to the eye only.
    const as = kind === 'trend' ? 'ray' : (kind as DrawingKind);
    draw(of, (list) => [
      ...list,
      {
        id: nextId(list),
        kind: as,
        points: points.map((p) => ({ ...p })),
        text,
        colour: as === 'note' ? 'text' : 'quiet',
        dashed: false,
      },
    ]);
  };
  const takeNote = (text: string) => {
    if (symbol !== undefined && noteAt && text.trim() !== '') finish(symbol, 'note', [noteAt], text.trim());
    setNoteAt(null);
  };

  const inside = (e: MouseEvent | PointerEvent): { x: number; y: number } | null => {
    if (!frame) return null;
    const box = e.currentTarget.getBoundingClientRect();
    const [x, y] = [e.clientX - box.left, e.clientY - box.top];
    return y >= frame.plot.y && y <= frame.plot.y + frame.plot.height ? { x, y } : null;
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (!tool || !frame) return;
    const far = e.key.startsWith('Page') ? 10 : 1;
    const [up, on] =
      {
        ArrowUp: [1, 0],
        ArrowDown: [-1, 0],
        PageUp: [1, 0],
        PageDown: [-1, 0],
        ArrowLeft: [0, -1],
        ArrowRight: [0, 1],
      }[e.key] ?? [];
    if (up === undefined && e.key !== 'Enter' && e.key !== 'Escape') return;
    e.preventDefault();
    e.stopPropagation();
    if (e.key === 'Escape') return leave();
    const now = useSession.getState();
    // The pointer's price is that of the focus; a pinned chart has its own.
    const mine = now.focus?.symbol === symbol;
    const last = sliceOf(now, symbol)?.last ?? null;
    const from = under ?? {
      at: timeAt(candles, minutes, candles.length - 1),
      price: roundToTick((mine ? pointer.price : null) ?? last ?? frame.priceAt(frame.plot.y)),
    };
    if (e.key === 'Enter') return take(from);
    const price = roundToTick(Math.max(1, from.price + (up ?? 0) * far * tickSize(from.price as Price)));
    const at = timeAt(candles, minutes, indexAt(candles, minutes, from.at) + (on ?? 0));
    if (mine) pointer.price = price;
    setUnder({ at, price });
    hover({ at, price });
  };
  const drawing = useMemo<Item | null>(() => {
    if (!tool || sends(tool.kind) || !under) return null;
    return {
      key: 'now',
      kind: tool.kind as Item['kind'],
      points: [...tool.points, under],
      text: '',
      colour: 'text',
      dashed: false,
      id: null,
    };
  }, [tool, under]);
  return { tool, setTool, leave, hover, take, takeNote, noteAt, pointAt, inside, onKeyDown, drawing };
}
