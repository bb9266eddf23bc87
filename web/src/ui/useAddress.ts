import { useCallback, useEffect, useRef } from "react";
import { useSearchParams } from "react-router";

/**
 * What the address holds, and a way to write it that starts from the newest address: two changes in
 * one breath both count, also where the first has not been drawn yet.
 */
export function useAddress(): [
  URLSearchParams,
  (next: (now: URLSearchParams) => URLSearchParams) => void,
] {
  const [params, setParams] = useSearchParams();
  const latest = useRef(params);
  useEffect(() => {
    latest.current = params;
  }, [params]);
  const write = useCallback(
    (next: (now: URLSearchParams) => URLSearchParams) => {
      latest.current = next(latest.current);
      setParams(latest.current);
    },
    [setParams],
  );
  return [params, write];
}
