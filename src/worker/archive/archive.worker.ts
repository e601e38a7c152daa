import { storageWords } from '../../store/room.ts';
import { serve } from '../call/serve.ts';
import { archiveJobs } from './archive.ts';

serve(archiveJobs, storageWords);
