import { useRef } from "react";
import {
  type DefaultValues,
  type FieldErrors,
  type FieldValues,
  type Path,
  type PathValue,
  useForm,
} from "react-hook-form";

import { ProblemError } from "../api";

/** What is wrong with a draft, by field, in words; nothing is kept while there is something. */
export type Check<T> = (draft: T) => Partial<Record<keyof T & string, string>>;

export interface Draft<T extends FieldValues> {
  /** As it stands in the form. */
  draft: T;
  /** Whether it is another than what the form began with. */
  changed: boolean;
  busy: boolean;
  /** What stands beside a field, once it was left or kept. */
  problems: Partial<Record<keyof T & string, string>>;
  /** Whether nothing is wrong with it, said or not yet. */
  fit: boolean;
  put: (part: Partial<T>) => void;
  /** A field was left: what is wrong with it may be said. */
  leave: (field: keyof T & string) => void;
  keep: (event?: React.BaseSyntheticEvent) => Promise<void>;
  reset: (start?: T) => void;
}

/** The draft of a form: what was typed, what is wrong with it, and that it is kept once.
 *
 * onKeep : sends it; what the server has against a field comes to stand beside that field, everything
 * else is the sender's to show.
 */
export function useDraft<T extends FieldValues>(
  start: T,
  onKeep: (draft: T) => unknown,
  check: Check<T> = () => ({}),
): Draft<T> {
  const rule = useRef(check);
  rule.current = check;
  const form = useForm<T>({
    defaultValues: start as DefaultValues<T>,
    mode: "onTouched",
    resolver: (draft) => {
      const found = Object.entries(rule.current(draft)).filter(([, said]) => said);
      return found.length === 0
        ? { values: draft, errors: {} }
        : {
            values: {},
            errors: Object.fromEntries(
              found.map(([field, message]) => [field, { type: "check", message }]),
            ) as FieldErrors<T>,
          };
    },
  });
  const draft = form.watch();
  const { errors, isSubmitting, touchedFields, isSubmitted } = form.formState;
  const wrong = check(draft);
  const touched = touchedFields as Record<string, unknown>;
  const problems = Object.fromEntries(
    Object.entries(errors).flatMap(([field, error]) =>
      error?.message && (isSubmitted || touched[field] || error.type === "server")
        ? [[field, String(error.message)]]
        : [],
    ),
  ) as Draft<T>["problems"];
  return {
    draft,
    changed: JSON.stringify(draft) !== JSON.stringify(form.formState.defaultValues),
    busy: isSubmitting,
    problems,
    fit: Object.values(wrong).every((said) => !said),
    put: (part) => {
      for (const [field, value] of Object.entries(part))
        form.setValue(field as Path<T>, value as PathValue<T, Path<T>>, {
          shouldDirty: true,
          shouldValidate: isSubmitted || Boolean(touched[field]),
        });
    },
    leave: (field) => {
      form.setValue(field as Path<T>, form.getValues(field as Path<T>), {
        shouldTouch: true,
        shouldValidate: true,
      });
    },
    keep: form.handleSubmit(async (whole) => {
      try {
        await onKeep(whole as T);
      } catch (error) {
        const fields =
          error instanceof ProblemError
            ? error.problem.errors.filter(({ field }) => field in (whole as object))
            : [];
        for (const { field, message } of fields)
          form.setError(field as Path<T>, { type: "server", message });
      }
    }),
    reset: (next) => form.reset((next ?? start) as DefaultValues<T>),
  };
}
