import { Box, Button, Link as MuiLink, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { asProblem } from "../api/client";
import { healthQuery } from "../api/queries";

const UNREADABLE = "/problems/unreadable";

/** What went wrong, in the server's own words. */
export function Problem({ error, retry }: { error: unknown; retry?: () => void }) {
  return (
    <Box role="alert" className="border-left-6-stop p-1_5 my-1 on-raised">
      <Typography>{asProblem(error).message}</Typography>
      {asProblem(error).type === UNREADABLE && <MuiLink component={Link} to="/cannot-be-read" color="inherit">Put it right</MuiLink>}
      {retry && <Button onClick={retry} className="mt-1">Try again</Button>}
    </Box>
  );
}

/** What is being waited for; while the server is still loading or compiling, that is said instead. */
export function Waiting({ what }: { what: string }) {
  const { data } = useQuery(healthQuery);
  const busy = data && data.state !== "ready" ? (data.compiles ? "Compiling the twin: a minute, this once" : data.state === "loading" ? "The twin is being loaded" : null) : null;
  return <Typography className="ink-soft p-2" role="status">{busy ?? what} …</Typography>;
}
