import { serve } from '../call/serve.ts';
import { ranksJobs } from './ranks.ts';

serve(ranksJobs());
