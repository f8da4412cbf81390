import { Refused } from '../api/client.ts';
import { aboutOtherFormat, questionOf } from './check-in-questions.ts';

const from = { id: 'five', number: 5 };
const fields = { base: 'six', note: 'Railing moved' };
const refusal = (code: string, extra: Record<string, unknown> = {}): Refused =>
  new Refused(409, code, 'So it is.', extra);

test('another format is asked about before anything is sent, and sent with leave', () => {
  const question = aboutOtherFormat('pier.png', 'pier.svg', fields);
  expect(question.sentence).toContain('“pier.png” is of another kind');
  expect(question.fields).toEqual({ ...fields, allowOtherFormat: 'yes' });
});

test('what somebody else holds becomes a branch from what the sender had', () => {
  for (const code of ['taken-over', 'checked-out'])
    expect(questionOf(refusal(code), fields, from)).toEqual({
      sentence: 'So it is.',
      answer: 'Check it in as a branch from v5',
      fields: { ...fields, base: 'five', branch: 'yes' },
    });
});

test('a version that landed meanwhile can be looked at, and gone on from', () => {
  expect(questionOf(refusal('newer-version', { newest: 9, newestId: 'nine' }), fields, from)).toEqual({
    sentence: 'So it is.',
    answer: 'Check in on top of v9',
    fields: { ...fields, base: 'nine' },
    lookAt: { id: 'nine', number: 9 },
  });
});

test('other refusals, and what is none, ask nothing', () => {
  expect(questionOf(refusal('no-right'), fields, from)).toBeUndefined();
  expect(questionOf(new Error('offline'), fields, from)).toBeUndefined();
});
