import { at } from "./base";
import { useQuery } from "@tanstack/react-query";
import { call, client, type JobSheet, type Schemas } from "./client";

export type SeriesOfRecord = Schemas["SeriesOfRecord"];
export type CoolerOfRecord = Schemas["CoolerOfRecord"];
export type RepairOfRecord = Schemas["RepairOfRecord"];
export type PartOfRecord = Schemas["PartOfRecord"];
export type TrialOfRecord = Schemas["TrialOfRecord"];
export type CurvePoint = Schemas["CurvePoint"];

/** What the workshop remembers: how long coolers last, what they do, how well its bench repeats itself. */
export function useRecords() {
  return useQuery({ queryKey: ["records"], queryFn: () => call(() => client.GET("/api/records")) });
}

/** The curve of a series and the machines that it is made of. */
export function useBehind(series: string) {
  return useQuery({
    queryKey: ["records", series],
    queryFn: () => call(() => client.GET("/api/records/behind", { params: { query: { series } } })),
  });
}

/** Which runs of a machine the records learn from, and in which figures. */
export function useCounted(job: JobSheet) {
  return useQuery({
    // Another version of the job may count otherwise.
    queryKey: ["records", "counted", job.id, job.version],
    queryFn: () => call(() => client.GET("/api/jobs/{id}/counted", { params: { path: { id: job.id } } })),
  });
}

/** The machines that the bench's repeatability was learnt from. */
export function useBehindBench() {
  return useQuery({
    queryKey: ["records", "bench"],
    queryFn: () => call(() => client.GET("/api/records/bench")),
  });
}

/** The machines that a cooler's figure is made of, and whether it drifts. */
export function useBehindCooler(name: string) {
  return useQuery({
    queryKey: ["records", "cooler", name],
    queryFn: () => call(() => client.GET("/api/records/cooler", { params: { query: { name } } })),
  });
}

/** The repairs that a figure is made of. */
export function useBehindRepair(act: string) {
  return useQuery({
    queryKey: ["records", "repair", act],
    queryFn: () => call(() => client.GET("/api/records/repair", { params: { query: { act } } })),
  });
}

/** The machines that a part went into. */
export function useBehindPart(kind: PartOfRecord["kind"], name: string) {
  return useQuery({
    queryKey: ["records", "part", kind, name],
    queryFn: () => call(() => client.GET("/api/records/part", { params: { query: { kind, name } } })),
  });
}

/** The machines in which two things were tried in each other's place. */
export function useBehindTrial(kind: TrialOfRecord["kind"], one: string, other: string) {
  return useQuery({
    queryKey: ["records", "trial", kind, one, other],
    queryFn: () => call(() => client.GET("/api/records/trial", { params: { query: { kind, one, other } } })),
  });
}

/** Where a record can be fetched as a table. */
export const recordTable = (what: "series" | "league" | "repairs" | "parts" | "trials") =>
  at(`/api/records/${what}.csv`);
