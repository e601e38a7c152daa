// Kept trades as files of every kind.
import { ByteWriter, ParquetWriter, schemaFromColumnData } from 'hyparquet-writer';
import {
  executionColumns,
  fixReports,
  keptExecutionsCsv,
  keptJson,
  keptTradesCsv,
} from '../../core/formats/index.ts';
import type { Remark, TradeRecord } from '../../core/review/index.ts';
import { utcOf } from '../executions/zones.ts';
import type { FileKind, ReviewAnswers } from './review-messages.ts';

/** A file of trades, with a name by their dates. */
export function fileOf(
  trades: readonly TradeRecord[],
  remarks: ReadonlyMap<string, Remark>,
  as: FileKind,
  all: readonly TradeRecord[] = trades,
): ReviewAnswers['file'] {
  const [first, last] = [trades[0]?.closed?.date, trades[trades.length - 1]?.closed?.date];
  const name = (what: string, end: string) =>
    `${what}${first ? `-${first}` : ''}${last && last !== first ? `-to-${last}` : ''}.${end}`;
  switch (as) {
    case 'executions csv':
      return { name: name('executions', 'csv'), type: 'text/csv', content: keptExecutionsCsv(trades, all) };
    case 'trades csv':
      return { name: name('trades', 'csv'), type: 'text/csv', content: keptTradesCsv(trades, remarks) };
    case 'trades json':
      return {
        name: name('trades', 'json'),
        type: 'application/json',
        content: keptJson(trades, remarks, all),
      };
    case 'executions fix':
      return { name: name('executions', 'fix'), type: 'text/plain', content: fixReports(trades, utcOf, all) };
    case 'executions parquet':
      return {
        name: name('executions', 'parquet'),
        type: 'application/vnd.apache.parquet',
        content: parquetOf(trades, all),
      };
  }
}

function parquetOf(trades: readonly TradeRecord[], all: readonly TradeRecord[]): Uint8Array<ArrayBuffer> {
  const columnData = executionColumns(trades, all).map(({ name, data }) => ({
    name,
    data,
    type: data.some((x) => typeof x === 'number') ? ('DOUBLE' as const) : ('STRING' as const),
    nullable: true,
  }));
  const writer = new ByteWriter();
  const parquet = new ParquetWriter({ writer, schema: schemaFromColumnData({ columnData }) });
  parquet.write({ columnData });
  parquet.finish();
  return new Uint8Array(writer.getBytes());
}
