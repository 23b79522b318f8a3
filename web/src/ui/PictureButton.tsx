import type { ReactNode } from "react";

type Props = { className: string; children: ReactNode; onPicture: (file: File) => void };

/** Takes a picture, or one that is there: a label that stands for the file chooser in it. */
export function PictureButton({ className, children, onPicture }: Props) {
  return (
    <label className={`flex cursor-pointer items-center has-focus-visible:outline-2 ${className}`}>
      {children}
      <input
        type="file"
        accept="image/jpeg,image/png"
        capture="environment"
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onPicture(file);
          // The same picture again is a change too.
          event.target.value = "";
        }}
      />
    </label>
  );
}
