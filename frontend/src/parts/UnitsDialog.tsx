import { Box, Button, Dialog, DialogContent, DialogTitle, Typography } from "@mui/material";
import { usePrefs } from "../look/prefs";
import { CHOSEN, PRESETS, choicesOf } from "../look/units";
import { Choice } from "./Choice";

/** One unit for each quantity, and two ways to set them all at once. What is typed may come in any unit all the same. */
export function UnitsDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { units, setUnits } = usePrefs();
  const same = (preset: Record<string, string>) => Object.entries(preset).every(([quantity, symbol]) => units[quantity] === symbol);
  return (
    <Dialog open={open} onClose={onClose}>
      <DialogTitle>Units</DialogTitle>
      <DialogContent>
        <Box role="group" aria-label="all at once" className="flex gap-1 mb-2">
          {Object.entries(PRESETS).map(([name, preset]) => (
            <Button key={name} aria-pressed={same(preset)} variant={same(preset) ? "contained" : "outlined"} onClick={() => setUnits({ ...preset })}>{name}</Button>
          ))}
        </Box>
        <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(130px, 1fr))", columnGap: 1.5, minWidth: { sm: 440 } }}>
          {Object.entries(CHOSEN).map(([quantity, title]) => (
            <Choice
              key={quantity} label={title} value={units[quantity]!} options={choicesOf(quantity).map((symbol) => ({ value: symbol, title: symbol }))}
              onChange={(symbol) => setUnits({ ...units, [quantity]: symbol })}
            />
          ))}
        </Box>
        <Typography variant="body2">Fields take any unit: 110 F, 3/4 in, 1 lb 4 oz, 5 gal. Money is shown as it was typed.</Typography>
      </DialogContent>
    </Dialog>
  );
}
