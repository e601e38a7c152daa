import { answerDay } from '@/server/answer';
import { newsTable } from '@/server/tables';

export const dynamic = 'force-dynamic';
export const GET = async (request: Request, { params }: { params: Promise<{ day: string }> }) =>
  answerDay(request, (await params).day, 'news', ['variation', 'symbol', 'from', 'to'], newsTable);
