import { sayAgo, sayMoment } from '../words.ts';

interface Props {
  readonly at: string;
  /** Before it, such as “since”. */
  readonly before?: string;
}

/** How long ago something was, with the moment behind it. A page may be a minute older than what its server said. */
export const Ago = ({ at, before = '' }: Props): React.ReactNode => (
  <span title={sayMoment(at)} suppressHydrationWarning>
    {before} {sayAgo(at)}
  </span>
);

/** When something was, and how long ago that is. */
export const Moment = ({ at }: { readonly at: string }): React.ReactNode => (
  <>
    {sayMoment(at)}{' '}
    <span className="ov-quiet">
      <Ago at={at} />
    </span>
  </>
);
