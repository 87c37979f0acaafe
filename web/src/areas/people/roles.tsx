// What somebody is: a role, with what it is for.

import type { Schemas } from "../../api/client";
import { ROLES } from "../../api/lists";

export type Role = Schemas["AccountView"]["role"];

const ROLE_WORDS: Record<Role, string> = {
  steward: "steward: writes the rules and releases them",
  clerk: "clerk: fills in records",
  approver: "approver: approves and returns records",
  reader: "reader: reads only",
};
export const ROLE_CHOICES = ROLES.map((role): [Role, string] => [role, ROLE_WORDS[role]]);

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
        {ROLE_CHOICES.map(([role, words]) => (
          <option key={role} value={role}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
