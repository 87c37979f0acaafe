// What somebody is: a role, with what it is for.
import type { Schemas } from "../../api/client";

export type Role = Schemas["AccountView"]["role"];
export const ROLES: [Role, string][] = [
  ["steward", "steward: writes the rules and releases them"],
  ["approver", "approver: approves records and sends them back"],
  ["clerk", "clerk: fills records in"],
  ["reader", "reader: looks only"],
];

type Props = { value: Role; onChange: (role: Role) => void };

export function RoleChoice({ value, onChange }: Props) {
  return (
    <label className="block">
      Role
      <select
        className="line-input mt-1 block"
        value={value}
        onChange={(event) => onChange(event.target.value as Role)}
      >
        {ROLES.map(([role, words]) => (
          <option key={role} value={role}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
