// What goes as a form: files, with what is said of them.

/** A form of these fields; a file goes as it is. */
function formOf(fields: Record<string, string | Blob>): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  return form;
}

/** Body of a request with a file: the schema knows the parts of a form as text; what is sent is the form itself. */
export const asForm = <T>(fields: Record<string, string | Blob>) => ({
  body: fields as T,
  bodySerializer: () => formOf(fields),
});

/** A picture's own name: the same picture sent again after a lost answer is the same picture. */
export const tokenOf = (file: File, where: string) =>
  `${file.lastModified}-${file.size}-${where}`.slice(0, 40);
