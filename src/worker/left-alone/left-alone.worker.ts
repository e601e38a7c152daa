import { serve } from '../call/serve.ts';
import { leftAloneJobs } from './left-alone.ts';

serve(leftAloneJobs);
