// Writes psychro.json: humid air by PsychroLib (npm psychrolib 1.1.1, after the ASHRAE Handbook), held against the core by OutsideTests.
// Run with Node after: npm install --no-save psychrolib@1.1.1
import { writeFileSync } from "node:fs";
import psychrolib from "psychrolib";

psychrolib.SetUnitSystem(psychrolib.SI);
const rooms = [
  [21, 0.5],
  [21, 0.4],
  [18, 0.7],
  [24, 0.3],
  [10, 0.9],
  [30, 0.6],
];
const rows = rooms.map(([celsius, relative]) => ({
  celsius,
  relative,
  dewPointC: psychrolib.GetTDewPointFromRelHum(celsius, relative),
  saturationPa: psychrolib.GetSatVapPres(celsius),
}));
const air = [-20, 0, 21].map((celsius) => ({
  celsius,
  densityKgM3: psychrolib.GetDryAirDensity(celsius, 101325),
}));
const line = (row) => "  " + JSON.stringify(row);
writeFileSync(
  new URL("psychro.json", import.meta.url),
  `{\n "rooms": [\n${rows.map(line).join(",\n")}\n ],\n "dryAir": [\n${air.map(line).join(",\n")}\n ]\n}\n`,
);
