import { type ComponentType, lazy, Suspense } from "react";

/** A component that is fetched when it is first shown; until then its place is empty. */
export function later<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
): ComponentType<Props> {
  const Fetched = lazy(() => load().then((component) => ({ default: component })));
  return function Later(props: Props) {
    return (
      <Suspense fallback={null}>
        <Fetched {...props} />
      </Suspense>
    );
  };
}
