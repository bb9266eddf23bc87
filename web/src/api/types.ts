import type { components } from "./schema";

type Schemas = components["schemas"];
export type Session = Schemas["Session"];
export type Artwork = Schemas["ArtworkData"];
export type Condition = Schemas["Condition"];
export type Profile = Schemas["ProfileSummary"];
export type Job = Schemas["JobData"];
export type Destination = Schemas["DestinationData"];
export type Recipe = Schemas["RecipeData"];
export type InkRules = Schemas["RulesData"];
export type IntentFigures = Schemas["IntentFigures"];
export type Fit = Schemas["FitData"];
export type InkFigures = Schemas["InkFigures"];
export type NeutralAxis = Schemas["NeutralAxis"];
export type Readout = Schemas["Readout"];
export type Delivery = Schemas["DeliveryData"];
export type Intent = Recipe["intent"];
