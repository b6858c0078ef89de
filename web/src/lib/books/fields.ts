import { tables } from "../tables.svelte";
import type { Field } from "./Fields.svelte";

/** Whose it is. */
export const who: Field[] = [
  { code: "name", label: "Name", most: 200 },
  { code: "phone", label: "Phone", most: 60 },
  { code: "email", label: "Mail address", most: 254 },
  { code: "note", label: "How to get in: dog, key, parking, ladder", most: 2000 },
];

/** Where the house stands, and when it was built. */
export const address = (): Field[] => [
  { code: "street", label: "Street and number", most: 200 },
  { code: "place", label: "Place", most: 200 },
  { code: "builtEra", label: "Built", words: tables.words("builtEra"), open: "not known" },
];

/** Where on earth it lies. */
export const whereabouts = (open = false): Field[] => [
  { code: "latitude", label: "Latitude, °", quantity: "ratio", open },
  { code: "longitude", label: "Longitude, °", quantity: "ratio", open },
  { code: "altitudeM", label: "Altitude", quantity: "altitude", open },
];

/** What else a house has. */
export const house: Field[] = [
  { code: "volumeM3", label: "Heated volume", quantity: "volume", open: true },
  { code: "ach50", label: "Blower door, air changes at 50 Pa", quantity: "ratio", open: true },
  { code: "widthM", label: "Width", quantity: "length" },
  { code: "roofPitchDeg", label: "Roof pitch, °", quantity: "ratio" },
  { code: "groundM", label: "Ground above the lowest floor", quantity: "length" },
];

/** What the plate and the household tell of a stove; a stove that is only told of may leave its year open. */
export const stove = (storeys: readonly string[], told = false): Field[] => [
  {
    code: "kind",
    label: "Kind",
    words: tables.all?.kinds ?? [],
    ...(told ? { open: "choose one" } : {}),
  },
  { code: "combustor", label: "Catalytic combustor", tick: true },
  { code: "model", label: "Maker and model, as its plate says", most: 200 },
  { code: "serial", label: "Serial number", most: 100 },
  { code: "room", label: "Room", most: 100 },
  { code: "year", label: "Year", quantity: "count", whole: true, open: told },
  ...(storeys.length > 0
    ? [{ code: "storey", label: "Storey", words: storeys.map((name, i) => ({ code: String(i), name })), byPlace: true }]
    : []),
];

/** What else a stove's label and manual ask for. */
export const stoveLabel: Field[] = [
  { code: "backM", label: "Label: to what burns behind it", quantity: "bore", open: true },
  { code: "sideM", label: "Label: to the sides", quantity: "bore", open: true },
  { code: "frontM", label: "Label: in front", quantity: "bore", open: true },
  { code: "aboveM", label: "Label: above", quantity: "bore", open: true },
  { code: "hearthRM2KW", label: "Label: resistance of the hearth", quantity: "resistance", open: true },
  { code: "collarM", label: "Label: diameter of the collar", quantity: "bore", open: true },
  { code: "fuel", label: "Label: fuel", most: 100 },
  { code: "manual", label: "What the manual asks at a service", most: 1000 },
];

/** A flue as it is told of: one of the usual systems. */
export const usualFlue = (): Field => ({
  code: "flue",
  label: "Flue",
  words: tables.words("usualFlue"),
  open: "usual for its kind",
});

/** What is measured of a stove, or stands on its label. */
export const stoveNumbers: Field[] = [
  { code: "nominalKw", label: "Output, kW", quantity: "ratio" },
  { code: "labelMinPa", label: "Label: draft at least", quantity: "draft", open: true },
  { code: "labelMaxPa", label: "Label: draft at most", quantity: "draft", open: true },
  { code: "collarHeightM", label: "Collar above the floor", quantity: "length" },
];
