import { at } from "./base";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";
import { viewed } from "./view";

export type PaperList = Schemas["PaperList"];
export type Paper = Schemas["PaperAnswer"];
export type NewLine = Schemas["NewLine"];
export type LinkList = Schemas["LinkList"];

const papersKey = (id: string) => ["papers", id] as const;
const linksKey = (id: string) => ["report-links", id] as const;

/** Quotes and bills of a job, and what the next one begins with. */
export function usePapers(id: string) {
  return useQuery({
    queryKey: papersKey(id),
    queryFn: () => call(() => client.GET("/api/jobs/{id}/papers", { params: { path: { id } } })),
  });
}

export function usePaperActions(id: string) {
  const cache = useQueryClient();
  const keep = (list: PaperList) => {
    cache.setQueryData(papersKey(id), list);
    void cache.invalidateQueries({ queryKey: ["jobs"] });
  };
  return {
    make: (kind: "quote" | "bill", lines: NewLine[]) =>
      call(() => client.POST("/api/jobs/{id}/papers", { params: { path: { id } }, body: { kind, lines } })).then(keep),
    sayYes: (paper: string, by: string | null) =>
      call(() =>
        client.PUT("/api/jobs/{id}/papers/{paper}/yes", { params: { path: { id, paper } }, body: { by } }),
      ).then(keep),
    takeBack: (paper: string, why: string) =>
      call(() =>
        client.DELETE("/api/jobs/{id}/papers/{paper}", { params: { path: { id, paper }, query: { why } } }),
      ).then(keep),
  };
}

/** Where a quote or bill can be opened as a document. */
export const paperPdf = (job: string, paper: string) => at(`/api/jobs/${job}/papers/${paper}/paper.pdf`);

/** Where the owner's page can be opened as a document. */
export const reportPdf = (job: string) => viewed(at(`/api/jobs/${job}/report.pdf`));

/** Where the warranty claim can be opened as a document for the maker. */
export const claimPdf = (job: string) => viewed(at(`/api/jobs/${job}/claim.pdf`));

/** Links to the owner's page that need no sign-in. */
export function useReportLinks(id: string) {
  return useQuery({
    queryKey: linksKey(id),
    queryFn: () => call(() => client.GET("/api/jobs/{id}/links", { params: { path: { id } } })),
  });
}

export function useLinkActions(id: string) {
  const cache = useQueryClient();
  const keep = (list: LinkList) => {
    cache.setQueryData(linksKey(id), list);
    return list;
  };
  return {
    make: (days: number) =>
      call(() => client.POST("/api/jobs/{id}/links", { params: { path: { id }, query: { days } } })).then(keep),
    withdraw: (link: string) =>
      call(() => client.DELETE("/api/jobs/{id}/links/{link}", { params: { path: { id, link } } })).then(keep),
  };
}
