import { openReview } from '../../store/review.ts';
import { storageWords } from '../../store/room.ts';
import { serve } from '../call/serve.ts';
import { executionsJobs } from './executions.ts';

serve(executionsJobs(openReview), storageWords);
