import { people } from '../../../../contract/operations/people.ts';
import { serve } from '../../../../server/http/serve.ts';
import { preferencesOf, setIgnore } from '../../../../server/people/preferences.ts';

export const GET = serve(people.preferences, preferencesOf);

export const PUT = serve(people.setPreferences, (by, { body }) => setIgnore(by, body.ignore));
