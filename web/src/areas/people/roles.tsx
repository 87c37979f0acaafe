// What somebody is: a role, with what it is for.

import type { Schemas } from "../../api/client";
import { ROLES } from "../../api/lists";
import { words } from "../../words";

const t = words("people");

export type Role = Schemas["AccountView"]["role"];

const ROLE_WORDS: Record<Role, string> = {
  steward: t("steward_writes_the_rules_and_releases_them"),
  clerk: t("clerk_fills_in_records"),
  approver: t("approver_approves_and_returns_records"),
  reader: t("reader_reads_only"),
};
export const ROLE_CHOICES = ROLES.map((role): [Role, string] => [role, ROLE_WORDS[role]]);

type Props = { value: Role; onChange: (role: Role) => void };

export function RoleChoice({ value, onChange }: Props) {
  return (
    <label className="block">
      {t("role")}
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
