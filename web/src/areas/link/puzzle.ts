// The work against robots: done by another thread while the form is filled in.
import { solveChallengeWorkers } from "altcha-lib/v1";
import Solver from "altcha-lib/v1/worker?worker";
import { useCallback, useRef } from "react";
import { answer, client } from "../../api/client";

const COUNTS_FOR = 25 * 60 * 1000; // milliseconds

async function solved(key: string): Promise<string> {
  const puzzle = await answer(client.GET("/api/links/{key}/puzzle", { params: { path: { key } } }));
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
  const begun = useRef<{ at: number; solution: Promise<string> } | null>(null);
  const solution = useCallback(() => {
    if (!begun.current || Date.now() - begun.current.at > COUNTS_FOR) {
      const next = { at: Date.now(), solution: solved(key) };
      begun.current = next;
      // One that could not be fetched is asked for again.
      next.solution.catch(() => {
        if (begun.current === next) begun.current = null;
      });
    }
    return begun.current.solution;
  }, [key]);
  const renew = useCallback(() => {
    begun.current = null;
  }, []);
  return { solution, renew };
}
