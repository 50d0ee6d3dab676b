/** What a column can be, in words. */
export const roles = [
  ["other", "not used"],
  ["cpu-temperature", "processor temperature"],
  ["cpu-control-temperature", "processor control temperature"],
  ["core-temperature", "core temperature"],
  ["cpu-power", "processor power"],
  ["cpu-clock", "processor clock"],
  ["core-clock", "core clock"],
  ["cpu-load", "processor load"],
  ["cpu-fan-speed", "processor fan"],
  ["case-fan-speed", "case fan"],
  ["pump-speed", "pump"],
  ["ambient-temperature", "room temperature"],
  ["case-air-temperature", "case air temperature"],
  ["coolant-temperature", "coolant temperature"],
  ["tube-out-temperature", "tube, block to radiator"],
  ["tube-return-temperature", "tube, radiator to block"],
  ["throttle-flag", "throttling flag"],
  ["gpu-temperature", "graphics temperature"],
  ["gpu-hotspot-temperature", "graphics hot spot"],
  ["gpu-memory-temperature", "graphics memory"],
  ["gpu-power", "graphics power"],
  ["gpu-load", "graphics load"],
  ["gpu-fan-speed", "graphics fan"],
  ["sound-level", "sound level"],
  ["score", "score, work done"],
] as const;

/** A role in words; its own name when there are none. */
export const roleWords = (role: string): string => roles.find(([name]) => name === role)?.[1] ?? role;
