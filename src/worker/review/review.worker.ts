// Review beside the session: its figures never keep an order waiting.
import { openReview } from '../../store/review.ts';
import { storageWords } from '../../store/room.ts';
import { serve } from '../call/serve.ts';
import { reviewJobs } from './review.ts';
import type { ReviewAnswers, ReviewRequest } from './review-messages.ts';

serve<ReviewRequest, ReviewAnswers>(reviewJobs(openReview), storageWords);
