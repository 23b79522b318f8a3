import type { ReactNode } from "react";
import { FileButton } from "./FileButton";

type Props = { className: string; children: ReactNode; onPicture: (file: File) => void };

/** Takes a picture, or one that is there. */
export function PictureButton({ className, children, onPicture }: Props) {
  return (
    <FileButton className={`flex ${className}`} accept="image/jpeg,image/png" camera onFile={onPicture}>
      {children}
    </FileButton>
  );
}
