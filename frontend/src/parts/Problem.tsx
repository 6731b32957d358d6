import { Box, Button, Typography } from "@mui/material";
import { asProblem } from "../api/client";

/** What went wrong, in the server's own words. */
export function Problem({ error, retry }: { error: unknown; retry?: () => void }) {
  return (
    <Box role="alert" sx={(t) => ({ borderLeft: `6px solid ${t.ink.stop}`, p: 1.5, my: 1, background: t.ink.raised })}>
      <Typography>{asProblem(error).message}</Typography>
      {retry && <Button onClick={retry} sx={{ mt: 1 }}>Try again</Button>}
    </Box>
  );
}

export function Waiting({ what }: { what: string }) {
  return <Typography sx={(t) => ({ color: t.ink.soft, p: 2 })} role="status">{what} …</Typography>;
}
