import { answerDay } from '@/server/answer';
import { printsTable } from '@/server/tables';

export const dynamic = 'force-dynamic';
export const GET = async (request: Request, { params }: { params: Promise<{ day: string }> }) =>
  answerDay(request, (await params).day, 'prints', ['variation', 'symbol', 'from', 'to'], printsTable);
