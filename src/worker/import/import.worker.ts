import { serve } from '../call/serve.ts';
import { importJobs } from './import.ts';

serve(importJobs);
