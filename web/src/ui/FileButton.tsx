import type { ReactNode } from "react";

type Props = {
  className: string;
  /** What is offered first. */
  accept: string;
  /** Of a telephone: its camera. */
  camera?: boolean;
  children: ReactNode;
  onFile: (file: File) => void;
};

/** A label that stands for the file chooser in it. */
export function FileButton({ className, accept, camera, children, onFile }: Props) {
  return (
    <label className={`cursor-pointer items-center has-focus-visible:outline-2 ${className}`}>
      {children}
      <input
        type="file"
        accept={accept}
        capture={camera ? "environment" : undefined}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          // The same file again is a change too.
          event.target.value = "";
        }}
      />
    </label>
  );
}
