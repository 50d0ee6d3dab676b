/** What a machine waits for: the server's id and order, its words on a tag, and one word for a filter. */
export const waits = [
  ["test", "waits for a test", "Test"],
  ["repair", "waits for repair", "Repair"],
  ["intake", "intake not complete", "Intake"],
  ["paste", "paste settles", "Paste"],
  ["pick-up", "ready to hand over", "Hand over"],
  ["part", "waits for a part", "Part"],
  ["owner", "waits for its owner", "Owner"],
  ["done", "handed over", "Gone"],
] as const;

const handNow = ["test", "repair", "intake"];

export const waitWords = (wait: string): string => waits.find(([id]) => id === wait)?.[1] ?? wait;

/** Whether a hand at the bench would move it on now. */
export const wantsHand = (wait: string): boolean => handNow.includes(wait);
