import { useRef } from "react";

/** A fresh submission key. It works without a secure context, unlike crypto.randomUUID. */
export function newKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(12)), (b) => b.toString(16).padStart(2, "0")).join("");
}

/**
 * The key of the form as it stands: the same for a second click, a new one once the server has taken the first. Pass
 * something that changes with each act that went through, such as the paper's version.
 */
export function useSubmissionKey(settled: unknown): () => string {
  const kept = useRef<{ settled: unknown; key: string } | null>(null);
  return () => {
    if (!kept.current || kept.current.settled !== settled) kept.current = { settled, key: newKey() };
    return kept.current.key;
  };
}
