// Receivers as the names of a list in which they are chosen.
import type { ROLES } from "../../api/lists";
import type { Receiver } from "./queries";

export function nameOf(one: Receiver): string {
  switch (one.who) {
    case "person":
      return `person ${one.name}`;
    case "role":
      return `role ${one.role}`;
    case "field":
      return `field ${one.field}`;
    default:
      return one.who;
  }
}

export function receiverOf(text: string): Receiver {
  const [who, ...rest] = text.split(" ");
  const name = rest.join(" ");
  switch (who) {
    case "person":
      return { who, name };
    case "role":
      return { who, role: name as (typeof ROLES)[number] };
    case "field":
      return { who, field: name };
    default:
      return { who: who as "submitter" | "keeper" };
  }
}
