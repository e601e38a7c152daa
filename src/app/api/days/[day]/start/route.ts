import { answerStart } from '@/server/answer-start';

export const dynamic = 'force-dynamic';
export const GET = async (request: Request, { params }: { params: Promise<{ day: string }> }) =>
  answerStart(request, (await params).day);
