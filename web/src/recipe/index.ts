export { COLOUR_PARTS, coloursOf } from "./colours";
export * from "./useRecipe";
