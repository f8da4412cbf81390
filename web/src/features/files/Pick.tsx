'use client';

interface Props {
  readonly says: string;
  /** How many of how many are picked. */
  readonly picked: number;
  readonly of: number;
  readonly onPick: (on: boolean) => void;
}

/** Picks one thing of a list, or all that belongs to it. */
export const Pick = ({ says, picked, of, onPick }: Props): React.ReactNode => (
  <input
    type="checkbox"
    className="ov-pick form-check-input"
    aria-label={`Pick: ${says}`}
    checked={picked === of}
    ref={(box) => {
      if (box) box.indeterminate = picked > 0 && picked < of;
    }}
    onChange={(e) => onPick(e.target.checked)}
  />
);
