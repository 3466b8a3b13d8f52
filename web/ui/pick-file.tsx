/** A file from this device. */
export const PickFile = ({
  label,
  accept,
  load,
}: {
  label: string;
  accept: string;
  load: (picked: File | undefined) => void;
}) => (
  <label className="flex items-center gap-3 flex-wrap mt-4">
    <span>{label}</span>
    <input
      type="file"
      accept={accept}
      className="file-input h-12"
      onChange={(e) => {
        load(e.target.files?.[0]);
        // The same file, corrected, counts as a new file.
        e.target.value = '';
      }}
    />
  </label>
);
