import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { practicePrefix } from "./base";
import { call, client, type Schemas } from "./client";

export type PracticeNow = Schemas["PracticeNow"];
export type PracticeQuestion = Schemas["PracticeQuestion"];
export type PracticeTry = Schemas["PracticeTryAnswer"];
export type PracticeDebrief = Schemas["PracticeDebrief"];
export type BeginPractice = Schemas["BeginPractice"];

const placeKey = ["practice"] as const;
const nowKey = ["practice", "now"] as const;

/** What is done in a bay costs minutes as well; they are looked at so often, ms. */
const lookAgain = 2000;

/** Levels to choose, and what was worked so far. */
export const usePractice = () =>
  useQuery({ queryKey: placeKey, queryFn: () => call(() => client.GET("/api/practice")), refetchOnMount: "always" });

/** A case that was ended: the score, and where the information lay. */
export const useDebrief = (id: string) =>
  useQuery({
    queryKey: [...placeKey, id],
    queryFn: () => call(() => client.GET("/api/practice/{id}", { params: { path: { id } } })),
  });

/** The case at hand; asked for on pages of practice alone. */
export const usePracticeNow = () =>
  useQuery({
    queryKey: nowKey,
    queryFn: () => call(() => client.GET("/api/practice/now")),
    refetchInterval: lookAgain,
  });

/** Opens a case's sheet: the page goes into practice as a whole. */
export const enter = (job: string) => location.assign(`${practicePrefix}/jobs/${job}`);

/** Back to work, at a page of the workshop. */
export const leave = (page = "/practice") => location.assign(page);

export const begin = (what: Partial<BeginPractice>) =>
  call(() => client.POST("/api/practice", { body: { level: null, seed: null, alone: false, file: null, ...what } }));

/** The case as a file, to give to somebody. */
export const caseFile = (id: string) => `/api/practice/${id}/case`;

/** What can be done with the case at hand; whatever was asked stands on the sheet as well. */
export function usePracticeActions(job: string) {
  const cache = useQueryClient();
  const use = <T>(change: (what: T) => Promise<PracticeNow>) =>
    useMutation({
      mutationFn: change,
      onSuccess: (now) => {
        cache.setQueryData(nowKey, now);
        return Promise.all([
          cache.invalidateQueries({ queryKey: ["job", job] }),
          cache.invalidateQueries({ queryKey: ["diagnosis"] }),
        ]);
      },
    });
  return {
    ask: use((evidence: string) => call(() => client.POST("/api/practice/now/ask", { body: { evidence } }))),
    repair: use((repair: string) => call(() => client.POST("/api/practice/now/repair", { body: { repair } }))),
    speed: use((speed: number) => call(() => client.PUT("/api/practice/now/speed", { body: { speed } }))),
    end: use((told: string) => call(() => client.POST("/api/practice/now/end", { body: { told } }))),
  };
}
