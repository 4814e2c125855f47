// What can be gone to and done, with the other names people look for it by. The glossary's names come from the core.
export type Place = { name: string; to: string; group: "Page" | "Act" | "Setting"; also: string; manager?: boolean };

export const FINDABLE: Place[] = [
  { name: "Yard", to: "/", group: "Page", also: "instruments fleet equipment list" },
  { name: "Set-up over a point", to: "/set-up", group: "Act", also: "centre level stand tripod guided setup centring" },
  { name: "Station orientation", to: "/orientation", group: "Act", also: "backsight free station resection" },
  { name: "Accuracy forecast", to: "/forecast", group: "Act", also: "error budget pre-analysis" },
  { name: "Angles and right angles", to: "/angles", group: "Act", also: "turned angle diagonal square" },
  { name: "Control points", to: "/points", group: "Page", also: "coordinates reference points benchmark import table" },
  { name: "Bench: begin a check", to: "/bench", group: "Act", also: "calibration test peg collimation open checks outbox" },
  { name: "Password and sessions", to: "/people", group: "Setting", also: "people sign in users lost tablet" },
  { name: "Staff or rod", to: "/settings", group: "Setting", also: "word levelling staff rod", manager: true },
  { name: "Decimal mark", to: "/settings", group: "Setting", also: "comma point numbers", manager: true },
  { name: "Units of the firm", to: "/settings", group: "Setting", also: "metres feet gon degrees", manager: true },
  { name: "Raw differences 2c and 2i", to: "/settings", group: "Setting", also: "judge raw two-face", manager: true },
];
