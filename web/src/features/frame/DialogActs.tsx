import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';

interface Props {
  /** What the dialog does, on its button. */
  readonly children: React.ReactNode;
  readonly disabled?: boolean;
  readonly cancel?: string;
  /** What the dialog does cannot be undone. */
  readonly forGood?: boolean;
  readonly onCancel: () => void;
}

/** The end of a dialog with a form: leave it, or do it. */
export const DialogActs = ({
  children,
  disabled = false,
  cancel = 'Cancel',
  forGood = false,
  onCancel,
}: Props): React.ReactNode => (
  <Modal.Footer>
    <Button variant="outline-secondary" onClick={onCancel}>
      {cancel}
    </Button>
    <Button type="submit" variant={forGood ? 'danger' : 'primary'} disabled={disabled}>
      {children}
    </Button>
  </Modal.Footer>
);
