import { choicesOf } from "../../api/jobFields";

/** Prints of paste, as a mount's field has them. */
const choices = choicesOf("mount.1.1.print");

export const prints = choices.map(([id]) => id);

export const printWords: Record<string, string> = Object.fromEntries(choices);
