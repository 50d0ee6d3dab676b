import { useQuery } from "@tanstack/react-query";
import { getSession } from "./client";

/** The workshop and the person at this screen. */
export const useSession = () => useQuery({ queryKey: ["session"], queryFn: () => getSession(), staleTime: Infinity });
