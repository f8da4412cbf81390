import Form from 'react-bootstrap/Form';
import type { Role } from '../../contract/api.ts';

/** A field of a form: what somebody may do in Ovrel as a whole. */
export const RoleSelect = ({ value }: { value: Role }): React.ReactNode => (
  <Form.Select name="role" defaultValue={value}>
    <option value="guest">guest: sees what a project opens to them</option>
    <option value="reader">reader: looks and compares</option>
    <option value="editor">editor: also checks in and organises</option>
    <option value="lead">lead: also makes projects</option>
    <option value="administrator">administrator: also manages people</option>
  </Form.Select>
);
