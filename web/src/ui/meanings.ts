/** What every figure means: one entry a figure, for its explanation where it stands and for the glossary. */
export interface Meaning {
  label: string;
  unit?: string;
  /** What it is and how it is found. */
  text: string;
  /** Why one looks at it. */
  why?: string;
  /** The document of methods that says how it is computed. */
  method?: string;
}

const entry = (
  label: string,
  text: string,
  more: Omit<Meaning, "label" | "text"> = {},
): Meaning => ({ label, text, ...more });
const SCREEN = "figures-on-screen";

export const MEANINGS = {
  out_of_gamut: entry(
    "Out of gamut",
    "Share of the picture that lies more than 2 ΔE00 outside the boundary of what prints: too vivid, too dark and too light, in this order. Relative to both whites and without black point compensation, which would hide what a weak black loses.",
    { unit: "%", why: "These colours change, and steps between them may be lost.", method: SCREEN },
  ),
  unconverted_de00: entry(
    "Unconverted",
    "How far the print differs from the artwork on average if its numbers go to the press as they are, without a conversion. Measured on the picture reduced to 220 pixels.",
    {
      unit: "ΔE00",
      why: "Says what a conversion gains over passing the numbers on.",
      method: SCREEN,
    },
  ),
  unconverted_tac: entry(
    "Total ink unconverted",
    "The highest total of the artwork's own numbers, on the picture reduced to 220 pixels.",
    {
      unit: "%",
      why: "Numbers made for another press may ask for more ink than this one dries.",
      method: SCREEN,
    },
  ),
  screen_values: entry(
    "RGB of the result",
    "The numbers of the delivered picture in the space of the screen or the web, in percent of the full value.",
    { unit: "%", method: SCREEN },
  ),
  too_vivid: entry(
    "Too vivid",
    "Share of the picture more than 2 ΔE00 outside, the nearest colour that prints differing more in hue and chroma than in lightness.",
    {
      unit: "%",
      why: "These colours become duller, and steps between them may be lost.",
      method: SCREEN,
    },
  ),
  too_dark: entry(
    "Too dark",
    "Share of the picture more than 2 ΔE00 outside, the nearest colour that prints being lighter.",
    {
      unit: "%",
      why: "Shadows lose depth; black point compensation keeps their steps, but not the depth.",
      method: SCREEN,
    },
  ),
  too_light: entry(
    "Too light",
    "Share of the picture more than 2 ΔE00 outside, the nearest colour that prints being darker.",
    { unit: "%", why: "Light and vivid colours come out darker.", method: SCREEN },
  ),
  family_share: entry(
    "Share of the family",
    "Percent of the picture that belongs to this family of hues, by CIELAB hue, chroma and, for skin, lightness.",
    { unit: "%", method: SCREEN },
  ),
  family_out: entry(
    "Out of gamut in the family",
    "Percent of the family that is too vivid, too dark or too light.",
    { unit: "%", method: SCREEN },
  ),
  chroma_kept: entry(
    "Chroma kept",
    "Mean C* of the family in print, in percent of what it was in the artwork as it came, under the chosen intent.",
    { unit: "%", why: "How dull a family becomes.", method: SCREEN },
  ),
  family_chroma: entry(
    "Chroma of the family",
    "Mean C* in the artwork as it came, after corrections where they change it, and in print.",
    { unit: "C*", method: SCREEN },
  ),
  vividness: entry(
    "Vividness kept",
    "C* of the print in percent of C* in the artwork as it came, over all its colours of C* 20 and more.",
    { unit: "%", why: "How dull the print is as a whole.", method: SCREEN },
  ),
  de00_mean: entry(
    "Mean ΔE00",
    "Mean CIEDE2000 between the corrected artwork and its print, each relative to its own white unless the intent is absolute.",
    { unit: "ΔE00", why: "About 1 is just visible side by side.", method: SCREEN },
  ),
  de00_p95: entry("95 % ΔE00", "95 % of the picture differs by less than this.", {
    unit: "ΔE00",
    why: "The rest are the colours that suffer most.",
    method: SCREEN,
  }),
  de00_max: entry("Worst ΔE00", "The largest difference of any colour of the picture.", {
    unit: "ΔE00",
    method: SCREEN,
  }),
  de00: entry(
    "ΔE00",
    "CIEDE2000 between the artwork's colour and its print here, both relative to their own white unless the intent is absolute.",
    { unit: "ΔE00", why: "About 1 is just visible side by side.", method: "colorimetry" },
  ),
  detail: entry(
    "Detail",
    "Local lightness contrast that the print keeps, in percent of the artwork's.",
    { unit: "%", why: "Low values mean that structures flatten.", method: SCREEN },
  ),
  banding: entry(
    "Flat gradients",
    "Share of the gradients that lose three quarters of their steps.",
    { unit: "%", why: "The risk of banding.", method: SCREEN },
  ),
  drift: entry("Greys", "Mean distance in a*, b* by which near-neutral colours move.", {
    why: "Greys that turn coloured are seen first.",
    method: SCREEN,
  }),
  tac: entry("Total area coverage", "The sum of all inks at one spot against the rule in force.", {
    unit: "%",
    why: "More ink than the medium bears sets off, dries late and loses detail.",
    method: "separation",
  }),
  tac_max: entry(
    "Highest TAC",
    "The largest sum of inks over every pixel, on a reduced copy of very large pictures.",
    { unit: "%", why: "It must stay within what the medium bears.", method: SCREEN },
  ),
  tac_place: entry(
    "Place of the highest TAC",
    "The pixel of the picture with the most ink, counted from the left and the top.",
    { unit: "px" },
  ),
  rule_tac: entry(
    "TAC of the rule",
    "The most ink that the condition or the recipe's own ink rules allow in any spot.",
    { unit: "%", method: "separation" },
  ),
  inks: entry("Inks", "Tone values of every plate at the pointer, before the press's dot gain.", {
    unit: "%",
    method: "separation",
  }),
  exposure: entry("Exposure", "The RGB values that the exposure unit gets, in percent.", {
    unit: "%",
  }),
  coverage: entry("Mean coverage", "Mean tone value of a plate over the whole picture.", {
    unit: "%",
    why: "It decides what ink is used.",
    method: "plates-and-films",
  }),
  darkest_grey: entry(
    "Darkest grey",
    "L*, a*, b* of the darkest print that these rules allow with a chroma of 1.5 or less, relative to the medium.",
    { why: "Shadows that are meant to be grey get no darker.", method: "separation" },
  ),
  darkest: entry(
    "Darkest colour",
    "L*, a*, b* of the print that comes nearest to black under these rules, whatever its cast, relative to the medium.",
    { method: "separation" },
  ),
  gamut_volume: entry(
    "Gamut volume",
    "Volume of all printable colours in cubic CIELAB units, relative to the paper; under ink rules also its share of what the inks could do without a limit.",
    { why: "A lower TAC costs colours; this says how many.", method: "gamut" },
  ),
  lab: entry(
    "Lab, D50",
    "CIELAB under D50: lightness L*, green to red a*, blue to yellow b*, relative to the medium unless the intent is absolute.",
    { method: "colorimetry" },
  ),
  place: entry("Place", "Pixel of the artwork under the pointer, from the left and the top.", {
    unit: "px",
  }),
  source_values: entry(
    "The artwork's numbers",
    "Device values as they stand in the file: 0 to 255 for RGB, percent for inks and grey.",
    {},
  ),
  pixels: entry("Pixels", "Width and height of the artwork.", { unit: "px" }),
  bits: entry("Bit depth", "Bits for each channel: 8 bits have 256 steps, 16 bits 65,536.", {
    unit: "bit",
    why: "Large corrections on 8 bits can show steps.",
  }),
  resolution: entry("Resolution", "Pixels per inch at the stated or chosen print size.", {
    unit: "ppi",
    why: "Below 150 single pixels may show; above 450 the file is only larger.",
  }),
  print_size: entry("Print size", "Width and height of the print, from pixels and resolution.", {
    unit: "mm",
  }),
  file_size: entry("File size", "Size of the file on disk.", { unit: "MB" }),
  pages: entry("Pages", "Pictures or pages in the file; a job is made of one."),
  transparency: entry(
    "Transparency",
    "Share of the picture that is transparent to some degree; it is laid on the medium's white.",
    { unit: "%" },
  ),
  tones_lost: entry(
    "Tones lost",
    "Percent of the picture's gradients that print flat, by the plate that is (nearly) solid there; “paper” where none prints.",
    {
      unit: "%",
      why: "There the picture muddies and the detail is gone; a lower total, less black or a curve gives it back.",
      method: SCREEN,
    },
  ),
  millilitres: entry(
    "Ink per square metre",
    "Mean coverage times the film that a full tint lays.",
    { unit: "ml/m²", method: "plates-and-films" },
  ),
  run_millilitres: entry("Ink for the run", "Ink per print times the copies.", {
    unit: "ml",
    method: "plates-and-films",
  }),
  cost: entry(
    "Cost",
    "Ink at its price, and the medium at its own, for a square metre or for the run.",
    { method: "plates-and-films" },
  ),
  area: entry("One print", "Area of one print at its size.", { unit: "m²" }),
  copies: entry("Copies", "How many prints the run has."),
  ruling: entry("Ruling", "Screen lines per inch of the films.", {
    unit: "lpi",
    method: "plates-and-films",
  }),
  mesh: entry(
    "Mesh",
    "The coarsest usual mesh with 4.5 threads to a screen line, a rule of thumb.",
    { unit: "threads/cm", method: "plates-and-films" },
  ),
  thread: entry(
    "Thread and opening",
    "Thread and opening of that mesh, 38 and 62 % of its pitch.",
    { unit: "µm", method: "plates-and-films" },
  ),
  holding_dots: entry(
    "Dots that hold",
    "Tone values whose dots are wider than a thread and an opening.",
    { unit: "%", why: "Smaller dots fall through the mesh.", method: "plates-and-films" },
  ),
  film_levels: entry(
    "Grey levels",
    "Steps that a cell of the film can show: the square of film resolution by ruling, and one.",
    { method: "plates-and-films" },
  ),
  fine_dots: entry("Fine dots", "Share of the picture with dots under the limit on one plate.", {
    unit: "%",
    why: "They break off flexographic plates.",
  }),
  grain: entry(
    "Grain",
    "Share of the picture that is light (L* above 78 in offset and gravure, 70 in inkjet and transfer, else 60) and carries 1 to 15 % black.",
    { unit: "%", why: "Single black dots in light tones look grainy." },
  ),
  region_change: entry(
    "Change in the region",
    "ΔE00 between the region as the rules alone would print it and as it prints now, and its mean black.",
    { unit: "ΔE00", why: "The colour should stay while the black changes." },
  ),
  lightness_shift: entry(
    "Lighter there by",
    "Mean difference in L* of the other condition's print.",
    { unit: "L*" },
  ),
  chroma_shift: entry(
    "More chroma there by",
    "Mean difference in C* of the other condition's print.",
    { unit: "C*" },
  ),
  copies_done: entry("Sheets and copies", "Sheets of the document times copies."),
  roll: entry("Roll", "Length of the roll that the prints take, turned where that saves.", {
    unit: "m",
    method: "printing",
  }),
  press_distance: entry(
    "Press against profile",
    "ΔE00 between what the simulated press prints and what the profile says, over the sheet's colours.",
    {
      unit: "ΔE00",
      why: "Large values mean that the profile no longer fits the press.",
      method: "press-simulator",
    },
  ),
  objects: entry(
    "Objects",
    "How many objects of this kind meet this rule; equal colours of a page count once each.",
    { method: "documents" },
  ),
  object_values: entry(
    "Values",
    "The colour of an object with its channels' names: RGB 0 to 255, inks and grey in percent, or L*, a*, b*; the mean of an image.",
    { method: "documents" },
  ),
  object_tac: entry("TAC of an object", "Highest total ink of the object after its rule.", {
    unit: "%",
    method: "documents",
  }),
  object_de00: entry(
    "Colours move",
    "CIEDE2000 between the colour as the document means it and as it comes out, each relative to its white; of an image the mean of a sample, of a picture its pixels.",
    {
      unit: "ΔE00",
      why: "About 1 is just visible side by side. Colours that do not fit the destination move further.",
      method: "documents",
    },
  ),
  size_forecast: entry(
    "Size to expect",
    "The document written anew, with images packed and reduced as the policy says, by parts of each; of a picture the result itself.",
    { unit: "MB", method: "documents" },
  ),
  object_page: entry("Page", "The page of the document that the object stands on."),
  object_pixels: entry(
    "Pixels and resolution",
    "Pixels of an image, and how many fall on an inch at its size on the page.",
    { unit: "px, ppi", method: "documents" },
  ),
  rule_number: entry("Rule", "The first rule of the policy that fits, by its number."),
  preflight: entry("Preflight", "What was found in the document as it came.", {
    method: "documents",
  }),
  page_tac: entry(
    "Total ink of the page",
    "Highest and mean sum of all plates, and the share of the page over the limit.",
    { unit: "%", method: "documents" },
  ),
  plate_coverage: entry("Coverage of a plate", "Share of the page that this ink covers.", {
    unit: "%",
    method: "documents",
  }),
  differing: entry("Differing objects", "Objects that the two policies bring out differently.", {
    method: "documents",
  }),
  versions: entry("Versions", "Every kept state of the policy; a former one can be taken over."),
  policy_rules: entry("Rules", "How many rules the policy has; the first that fits decides."),
  in_queue: entry("In the queue", "Work that waits, is held or runs."),
  progress: entry(
    "Progress",
    "Share of the work that is done, and how long the rest takes at this speed.",
    { unit: "%" },
  ),
  took: entry("Time", "From start to end, the size of the file that was made beside it."),
  when: entry("Day and time", "When it came or ended, in your own time zone."),
  media_price: entry("Price of the medium", "Price of a roll by its width and length.", {
    method: "printing",
  }),
  passes: entry("Passes", "How often the head goes over a line; ink limits hold for this number."),
  drying: entry("Drying", "Time before winding, transfer or the next side.", { unit: "min" }),
  platen_gap: entry("Platen gap", "Distance from head to medium.", { unit: "mm" }),
  feed: entry("Feed", "Correction of the step by which the medium moves.", { unit: "%" }),
  heat: entry("Heat", "Of dryer, platen or transfer press.", { unit: "°C" }),
  jobs: entry("Jobs", "One job for each piece of artwork, with its conditions."),
  media: entry("Media", "Media of the printer, and what is in its queue."),
  moments: entry("Moments", "Earlier points of the recipe; any two can be compared."),
  scale: entry("Scale", "What the shades of a map stand for.", { method: SCREEN }),
  zoom: entry("Zoom", "Screen pixels for a hundred pixels of the artwork.", { unit: "%" }),
  histogram: entry(
    "Tone values",
    "Share of the picture in each step of tone value, paper left out.",
    { unit: "%", method: SCREEN },
  ),
  tac_reached: entry(
    "Total reached",
    "The highest sum of inks that this intent's table gives, over a close grid of colours and every node of the table.",
    {
      unit: "%",
      why: "A total above what the medium bears is held by force later, and greys break there.",
      method: "examination",
    },
  ),
  black_start: entry(
    "Black from",
    "Lightness of the print at which neutral colours begin to carry 1 % black.",
    {
      unit: "L*",
      why: "Early black looks grainy in light tones, late black leaves greys to three inks.",
      method: "examination",
    },
  ),
  black_most: entry(
    "Most black",
    "The highest tone value of black that this intent's table gives.",
    { unit: "%", method: "examination" },
  ),
  darkest_neutral: entry(
    "Darkest grey",
    "L*, a*, b* of the print where black is asked for with black point compensation, relative to the medium.",
    { why: "How deep shadows get, and whether they stay grey.", method: "examination" },
  ),
  solids: entry(
    "Solids",
    "L*, a*, b* of paper, full inks and their overprints as printed, absolute under D50.",
    { method: "examination" },
  ),
  vanishing_tint: entry(
    "Tints that vanish",
    "The highest tone value of an ink that changes the paper by less than 0.5 ΔE 1976.",
    {
      unit: "%",
      why: "Dots below it do not print on flexo plates and screens.",
      method: "examination",
    },
  ),
  paper_white: entry("Paper", "L*, a*, b* of the medium's white, absolute under D50.", {
    method: "examination",
  }),
  forward_fit: entry(
    "Fit to the measurements",
    "ΔE00 between patches and what a model made without them predicts (cross-validation).",
    { unit: "ΔE00", why: "A profile cannot be better than its model.", method: "profile-building" },
  ),
  misread: entry(
    "A contradicted reading",
    "What was read is further from what all other readings say of this patch than readings around it are.",
    {
      unit: "ΔE00",
      why: "One misread strip bends the profile around it.",
      method: "profile-building",
    },
  ),
  greys_at: entry(
    "A grey",
    "What a neutral colour of this lightness prints as, and the inks that make it.",
    { method: "examination" },
  ),
  grey_cast: entry("Chroma of greys", "C*ab of what neutral colours print as, over L* 100 to 0.", {
    why: "From about 3 a grey looks coloured beside a neutral one.",
    method: "examination",
  }),
  tvi: entry(
    "Tone value increase",
    "How much larger a tint prints than asked, by Murray-Davies on X for cyan, Y for magenta and black, Z for yellow of the forward table.",
    { unit: "%", method: "examination" },
  ),
  link_error: entry(
    "Error of the grid",
    "ΔE00 between the grid of numbers that was applied to the pixels and the exact conversion, of the kind of colour where it is worst.",
    { unit: "ΔE00", why: "Below 0.2 nobody sees it.", method: "device-links" },
  ),
  evenness: entry(
    "Evenness of the greys",
    "Along 512 steps from white to black: by how much black falls again in all though the grey gets darker, and the largest step of black and of any ink.",
    {
      unit: "% of tone value",
      why: "Neighbouring greys made of quite different inks print alike only while every ink keeps its density; a step shows as a line.",
      method: "separation",
    },
  ),
  stray_ink: entry(
    "Stray ink",
    "The most that a solid ink, or an overprint of two, gets of an ink that it is not made of when its own printed colour is converted to inks.",
    {
      unit: "% of tone value",
      why: "A cyan with some yellow in it is dirty on every sheet; below 0.5 % nobody sees it.",
      method: "profile-building",
    },
  ),
  round_trip: entry(
    "Round trip",
    "ΔE00 between 20,000 printable colours and what the profile's own backward and forward side make of them.",
    {
      unit: "ΔE00",
      why: "What does not come back is not printed as asked.",
      method: "examination",
    },
  ),
  smoothness: entry(
    "Smoothness",
    "Second differences of print and inks along 300 straight ramps inside the gamut with steps of 1 ΔE 1976.",
    { why: "Bends show as bands in gradients.", method: "examination" },
  ),
  aim_difference: entry(
    "Against the aim",
    "ΔE00 of paper, solids and overprints, absolute; tones by their increase printed less the increase aimed at. A tone's increase is that of one tristimulus value (Murray-Davies).",
    { method: "examination" },
  ),
  build_miss: entry(
    "Miss of a build",
    "ΔE00 between a spot colour and the nearest build of whole percents that the printing condition's rules allow.",
    { why: "Beyond what is fine the colour is seen as another.", method: "spots" },
  ),
  findings: entry(
    "Findings",
    "How many things were found that should be looked at; the sentences stand under What is wrong with it.",
    { method: "examination" },
  ),
  used_by: entry("Used by", "Your jobs and media that go to the condition."),
  profile_change: entry(
    "What changes",
    "ΔE00 between what the two profiles print: paper, solids and overprints, and neutral colours by relative colorimetric.",
    { unit: "ΔE00", why: "Results made anew will differ by as much.", method: "examination" },
  ),
  ink_ramp: entry(
    "Inks along a ramp",
    "What every plate prints from the darkest to the lightest colour of a ramp.",
    { unit: "%", method: "separation" },
  ),
} as const satisfies Record<string, Meaning>;

export type Figure = keyof typeof MEANINGS;
