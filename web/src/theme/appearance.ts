import { createContext, useContext } from "react";

export interface Appearance {
  dark: boolean;
  setDark: (dark: boolean) => void;
  sentences: boolean;
  setSentences: (shown: boolean) => void;
}

export const AppearanceContext = createContext<Appearance>({
  dark: false,
  setDark: () => undefined,
  sentences: true,
  setSentences: () => undefined,
});

export const useAppearance = () => useContext(AppearanceContext);

export function stored(key: string, fallback: boolean): boolean {
  const value = localStorage.getItem(key);
  return value === null ? fallback : value === "yes";
}
