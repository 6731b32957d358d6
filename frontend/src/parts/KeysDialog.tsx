import { Box, Button, Dialog, DialogContent, DialogTitle, Typography } from "@mui/material";
import { HELD_KEY_WORDS, KEYS } from "../look/keys";
import { SLAB } from "../look/theme";

/** All keys, from the one table that they work by. */
const ROWS: [string, string, string][] = [...Object.entries(KEYS).map(([key, { words, where }]): [string, string, string] => [key, words, where]), ...HELD_KEY_WORDS];

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose}>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        {[...new Set(ROWS.map(([, , where]) => where))].map((where) => (
          <Box key={where}>
            <Typography variant="h3" className="mt-1">{where}</Typography>
            <Box component="dl" className="grid columns-auto-1fr column-gap-3 row-gap-0_25 m-0">
              {ROWS.filter((row) => row[2] === where).map(([key, words]) => (
                <Box key={`${key}${words}`} className="display-contents">
                  <Box component="dt" sx={{ fontFamily: SLAB, fontWeight: 700 }}>{key}</Box>
                  <Box component="dd" className="m-0">{words}</Box>
                </Box>
              ))}
            </Box>
          </Box>
        ))}
        <Button onClick={onClose} className="mt-2">Close</Button>
      </DialogContent>
    </Dialog>
  );
}
