// The work against robots: done by another thread while the form is filled in.
import { solveChallengeWorkers } from "altcha-lib/v1";
import Solver from "altcha-lib/v1/worker?worker";
import { useMemo } from "react";
import { answer, client } from "../../api/client";
import { Solution } from "./solution";

async function solved(key: string): Promise<string> {
  const puzzle = await answer(
    client.GET("/api/v1/links/{key}/puzzle", { params: { path: { key } } }),
  );
  const { algorithm, challenge, salt, maxNumber } = puzzle;
  const found = await solveChallengeWorkers(
    () => new Solver(),
    1,
    challenge,
    salt,
    algorithm,
    maxNumber,
  );
  return btoa(JSON.stringify({ ...puzzle, number: found?.number ?? -1 }));
}

/** A solution, begun early; `renew` has another one made, as each counts once. */
export function usePuzzle(key: string) {
  return useMemo(() => {
    const kept = new Solution(() => solved(key));
    return { solution: () => kept.get(), renew: () => kept.renew() };
  }, [key]);
}
