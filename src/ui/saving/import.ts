import { toast } from "sonner";
import { api } from "./api";

/**
 * Imports a file as a new project and gives its id; says what was imported and what could not be
 * kept. Null where the file was refused: nothing was changed then, and the message says why.
 */
export async function importFile(file: File): Promise<string | null> {
  try {
    const { id, project, notKept } = await api.import(file);
    const lost = notKept.length > 0 ? ` Not kept: ${notKept.join(", ")}.` : "";
    toast.success(`“${project.name}” imported.${lost}`);
    return id;
  } catch (error) {
    toast.error(`“${file.name}” not imported: ${(error as Error).message}. Nothing was changed.`);
    return null;
  }
}
