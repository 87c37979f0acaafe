// The way through a form: its stages, and the pages of the one where one is.
import { useLayoutEffect } from "react";
import { Link, NavLink, useLocation, useParams } from "react-router";
import { useRights } from "../../api/session";
import { words } from "../../words";
import { lastView } from "./last-view";
import { keepPlace, lastPlace, type Stage, stageAt, stagesFor } from "./stages";

const t = words("frame");

export function FormPlaces({ name }: { name: string }) {
  const { formKey = "" } = useParams();
  const { pathname } = useLocation();
  const stages = stagesFor(useRights());
  const here = stageAt(stages, pathname);
  useLayoutEffect(() => {
    if (here) keepPlace(formKey, here, pathname);
  }, [formKey, here, pathname]);
  return (
    <nav aria-label={t("places_of_name", { name })} className="mt-2">
      <ol className="flex items-baseline">
        {stages.map((stage) => (
          <li
            key={stage.name}
            className="flex items-baseline gap-5 pr-5 not-first:border-l not-first:border-hairline not-first:pl-5"
          >
            {stage.name && stages.length > 1 && (
              <StageName formKey={formKey} stage={stage} here={stage === here} />
            )}
            {(stage === here || stages.length === 1) &&
              stage.places.map((place) => <Place key={place.at} {...place} />)}
          </li>
        ))}
      </ol>
    </nav>
  );
}

type StageProps = { formKey: string; stage: Stage; here: boolean };

function StageName({ formKey, stage, here }: StageProps) {
  const words = "font-serif italic";
  if (here) return <span className={`${words} text-thistle`}>{stage.name}</span>;
  return (
    <Link
      to={lastView(`/forms/${formKey}/${lastPlace(formKey, stage)}`)}
      className={`${words} text-muted hover:text-thistle hover:underline`}
      title={stage.places.map(({ name }) => name).join(", ")}
    >
      {stage.name}
    </Link>
  );
}

function Place({ at, name }: { at: string; name: string }) {
  const { formKey = "" } = useParams();
  return (
    <NavLink
      to={lastView(`/forms/${formKey}/${at}`)}
      className={({ isActive }) =>
        `border-b-3 px-0.5 py-1.5 ${isActive ? "border-thistle font-semibold" : "border-transparent hover:border-hairline"}`
      }
    >
      {name}
    </NavLink>
  );
}
