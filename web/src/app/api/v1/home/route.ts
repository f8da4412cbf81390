import { home } from '../../../../contract/operations/home.ts';
import { serve } from '../../../../server/http/serve.ts';
import { homeOf } from '../../../../server/home/service.ts';

export const GET = serve(home.get, (by) => homeOf(by));
