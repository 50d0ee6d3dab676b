export const coolerKinds = [
  ["down-draught", "Flat, blows down"],
  ["tower", "Tower"],
  ["dual-tower", "Dual tower"],
  ["liquid", "Liquid loop"],
  ["passive", "No fan"],
] as const;
