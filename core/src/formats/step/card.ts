import { latinOf, type Card } from '../../model/card.ts';
import { hasExtension } from '../shared/plain-text.ts';

export const step: Card = {
  id: 'step',
  title: 'STEP model',
  extensions: ['stp', 'step', 'p21'],
  mime: 'model/step',
  icon: 'boxes',
  sniff(head, name) {
    const text = latinOf(head);
    if (!text.trimStart().startsWith('ISO-10303-21')) return 'no';
    if (
      /FILE_SCHEMA\s*\(\s*\(\s*'(?:AUTOMOTIVE_DESIGN|CONFIG_CONTROL_DESIGN|CONFIGURATION_CONTROL|AP2\d\d)/i.test(text)
    )
      return 'certain';
    return hasExtension(name, step.extensions) ? 'likely' : 'no';
  },
  kinds: ['solid', 'text', 'bytes'],
  show: 'space',
  writes: 'lossless',
  load: async () => (await import('./format.ts')).format,
};
