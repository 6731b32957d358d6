import { Box, Button, Typography } from "@mui/material";
import { useState, type ReactNode } from "react";

/** A question that costs the twin some seconds: its answer is worked out when somebody asks. */
export function Asked({ title, door, children }: { title: string; door: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Box className={open ? "mt-2" : "mt-2 shut"}>
      <Typography variant="h2" className="mb-0_5">{title}</Typography>
      {open ? children : <Button onClick={() => setOpen(true)}>{door}</Button>}
    </Box>
  );
}
