import { problemText } from "../../api/client";
import { useMachineId } from "../../lib/route";
import { Failure } from "../../ui/basics";
import { PictureButton } from "../../ui/PictureButton";
import { useKeepPhoto, useRemovePhoto } from "./queries";
import { useSheet } from "./sheet";

/** Pictures of a wheel, if anyone wants them. */
export function Photos({ wheel, label }: { wheel: string; label: string }) {
  const { inspection } = useSheet();
  const keep = useKeepPhoto(useMachineId(), inspection.id);
  const remove = useRemovePhoto(inspection.id);
  const own = inspection.photos.filter((photo) => photo.wheel === wheel);
  const failed = keep.error ?? remove.error;
  return (
    <div className="flex flex-wrap items-end gap-3">
      {own.map((photo) => (
        <figure key={photo.id}>
          <img
            src={`/api/photos/${photo.id}`}
            alt={`${label}, taken ${photo.taken_at.slice(0, 16).replace("T", " ")}`}
            className="h-24 max-w-40 border border-hairline object-cover"
          />
          <button
            type="button"
            className="condensed min-h-6 text-xs underline underline-offset-2"
            onClick={() => remove.mutate(photo.id)}
          >
            Take out<span className="sr-only"> this picture of {label}</span>
          </button>
        </figure>
      ))}
      <PictureButton
        className="min-h-8 underline underline-offset-2"
        onPicture={(file) => keep.mutate({ wheel, file })}
      >
        {keep.isPending ? "Keeping the picture…" : "Add a picture"}
        <span className="sr-only"> of {label}</span>
      </PictureButton>
      {failed && <Failure text={problemText(failed)} />}
    </div>
  );
}
