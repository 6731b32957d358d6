import { Box, Button } from "@mui/material";
import { undoing, useUndo } from "../look/undo";
import { useKeys } from "./useKeys";

const KEYS = { u: undoing.back };

/** The one place that says what was done last and takes it back, whichever page is open. */
export function UndoPlace() {
  const next = useUndo();
  useKeys(KEYS);
  if (!next) return null;
  return (
    <Box component="aside" aria-label="undo" className="undo-place no-print">
      <Button variant="text" className="start" title={next.words} onClick={undoing.back}><span><b>Undo</b> {next.words}</span></Button>
    </Box>
  );
}
