// A file of the person's own; the same file can be chosen again after it was corrected.
export function FileInput({ accept, label, onFile }: { accept: string; label?: string; onFile: (file: File) => void }) {
  return (
    <input
      type="file"
      accept={accept}
      aria-label={label}
      className="field file:mr-4 file:min-h-[44px] file:border-0 file:bg-transparent file:font-semibold file:underline"
      onChange={(event) => {
        const file = event.target.files?.[0];
        event.target.value = "";
        if (file) onFile(file);
      }}
    />
  );
}

export const TABLES = ".csv,.tsv,.txt";
