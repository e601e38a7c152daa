import { answerTable } from '@/server/answer';
import { daysTable } from '@/server/tables';

export const dynamic = 'force-dynamic';
export const GET = (request: Request) => answerTable(request, 'days', [], daysTable);
