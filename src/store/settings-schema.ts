import { array, boolean, number, object, string } from 'yup';

const script = object({
  id: string().required(),
  name: string().required().max(40),
  text: string().required().max(2_000),
  /** A key by its place on the keyboard (KeyboardEvent.code), with modifiers first; '' for none. */
  chord: string().defined().default(''),
  onRack: boolean().required(),
});

/** What the trader has chosen for the interface. Checked whenever it is read: a file may be old or foreign. */
export const settingsSchema = object({
  theme: string().oneOf(['night', 'dawn']).required(),
  keysOn: boolean().required(),
  confirm: object({ keys: boolean().required(), buttons: boolean().required(), drags: boolean().required() }).required(),
  scripts: array(script.required()).required().max(200),
  scan: object({ rule: string().required().max(1_000), rankBy: string().required() }).required(),
  shortlist: array(string().required()).required().max(200),
  focus: string().defined().default(''),
  chartMinutes: number().oneOf([1, 5]).required(),
});
