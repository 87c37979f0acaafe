import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";

/** The lists of choices that forms share. */
export function useChoiceLists() {
  return useQuery({
    queryKey: keys.choiceLists,
    queryFn: () => answer(client.GET("/api/v1/choice-lists")),
  });
}
