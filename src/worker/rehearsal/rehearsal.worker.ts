import { serve } from '../call/serve.ts';
import { rehearsalJobs } from './rehearsal.ts';

serve(rehearsalJobs);
