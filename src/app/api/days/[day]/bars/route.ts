import { answerDay } from '@/server/answer';
import { barsTable } from '@/server/tables';

export const dynamic = 'force-dynamic';
export const GET = async (request: Request, { params }: { params: Promise<{ day: string }> }) =>
  answerDay(request, (await params).day, 'bars', ['variation', 'symbol', 'minutes', 'from', 'to'], barsTable);
