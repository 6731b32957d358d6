import { Box } from "@mui/material";
import { useState } from "react";
import { insteadQuery } from "../../api/queries";
import { useHeavy } from "../../api/heavy";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

const PRICE = 0.25;

/** What an electric heater would take for the same heat. */
export function Instead({ state, heater, watts }: { state: BuildState; heater: string; watts: number }) {
  const [power, setPower] = useState(watts);
  const [price, setPrice] = useState(PRICE);
  const asked = useHeavy(insteadQuery(state.request!, power / 1000, price));
  const { data, error } = asked;
  return (
    <Box>
      <Box className="flex wrap gap-1 mt-1">
        <NumberField label={heater} value={power} quantity="power" onCommit={setPower} />
        <NumberField label="Price of a kilowatt-hour" value={price} quantity="price" onCommit={setPrice} />
      </Box>
      {error ? <Problem error={error} /> : data ? <Words said={data.words} /> : <Progress answer={asked} what="Reckoning" />}
    </Box>
  );
}
