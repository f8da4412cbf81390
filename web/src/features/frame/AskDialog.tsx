'use client';
/** A dialog that asks for one thing, and stays open with a sentence where that will not do. */
import { fieldOf } from './form.ts';
import { FormDialog } from './FormDialog.tsx';

interface Props {
  readonly title: string;
  readonly act: string;
  /** Name of the field that holds the answer, among the children. */
  readonly field: string;
  /** Rejects with a sentence where the answer can't be used. */
  readonly save: (answer: string) => Promise<void>;
  readonly onClose: () => void;
  readonly children: React.ReactNode;
}

export function AskDialog({ field, save, onClose, ...rest }: Props): React.ReactNode {
  const answer = async (form: HTMLFormElement): Promise<void> => {
    await save(fieldOf(form, field));
    onClose();
  };
  return <FormDialog id={field} save={answer} onClose={onClose} {...rest} />;
}
