import ProgressBar from 'react-bootstrap/ProgressBar';

interface Props {
  /** From 0 to 1. */
  readonly share: number;
  /** Read aloud. */
  readonly name: string;
  readonly className?: string;
}

/**
 * How far something is. The name stands at the bar itself: React-Bootstrap would put it at the box around it, which
 * is not read.
 */
export const Progress = ({ share, name, className = '' }: Props): React.ReactNode => (
  <div className={`progress ${className}`}>
    <ProgressBar isChild now={share * 100} aria-label={name} />
  </div>
);
