/** Loads that have a name of their own, as a technician says them. */
export const loads = [
  ["all-core", "All cores"],
  ["vector", "Heaviest"],
  ["cpu-and-gpu", "With graphics"],
  ["game-like", "Game-like"],
] as const;

/** A load in the middle of a sentence. */
export function loadWords(load: string | null | undefined): string {
  const known = loads.find(([id]) => id === load);
  return load == null ? "a load nobody noted" : known ? known[1].toLowerCase() : load;
}
