/** Words of the trade and Plinto's own, beside the figures. */
export const WORDS: Record<string, string> = {
  "Soft proof":
    "Seeing artwork on the screen as a press, its paper and its inks would render it. Plinto calls it the press view of a job for one condition.",
  "Press view": "The soft proof of a job for one printing condition.",
  "Printing condition":
    "A printer or press with its medium, inks and mode, its output profile and its ink rules; short: condition.",
  Aim: "Numbers that a print is judged by: paper, solids, overprints, tones, with how far each may be missed.",
  Build:
    "The mixture of a press's inks, in percent, that stands for a spot colour; its tints take their share of it.",
  Recipe:
    "The ordered, stored steps that take a job's artwork to one condition; it can be exported and run again.",
  Moment: "An earlier point of a recipe that can be looked at again.",
  "Rendering intent":
    "How colours are fitted into a smaller gamut: perceptual moves everything to keep relations, relative colorimetric moves only what does not fit, saturation favours vividness, absolute colorimetric also shows the paper.",
  "Black point compensation":
    "Lays the artwork's black on the darkest print, so that shadows keep their steps (BPC, ISO 18619).",
  "Ink rules":
    "Total area coverage, limits of single inks, black generation and black protection in one named set.",
  "Grey component replacement":
    "Black takes the place of the grey part that cyan, magenta and yellow make together (GCR).",
  "Under colour removal": "Black takes the place of coloured inks in dark neutrals only (UCR).",
  "Black protection":
    "Black that stays black ink alone: pure black of CMYK artwork, black text, or all greys. It wins over the method and the limits of black.",
  "Arrival space": "The RGB space that artwork is brought into on arrival by house rule.",
  Assign: "Changes what the numbers of artwork mean and leaves the numbers alone.",
  Convert: "Changes the numbers and keeps the appearance.",
  "Out-of-gamut veil":
    "The mark over colours that the condition cannot print; fine hatching, unless a colour is chosen.",
  "What the screen plays": "The print's colours only; its weakest black too; its paper as well.",
  "Output policy": "Rules by object kind and colour space for printers and RIPs.",
  "Output intent": "The printing condition that a PDF says it was made for (ISO 15930).",
  "Watched folder": "A folder whose files run through a policy, and on to a printer.",
  "House rules": "What happens to artwork without a profile or with an unusual one, decided once.",
  "Device link": "A table from one device's numbers straight to another's.",
  Gamut: "All colours that a device can make.",
  "Delta E":
    "The distance of two colours; CIEDE2000 (ΔE00) follows the eye best of the usual ones.",
  TVI: "Tone value increase: how much larger a dot prints than it was asked for.",
};
