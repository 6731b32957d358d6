import { Box, Button, Checkbox, Dialog, DialogContent, DialogTitle, FormControlLabel, Link as MuiLink, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, type Invitation, type Share } from "../api/client";
import { shareQuery } from "../api/queries";
import { clockWords, dateYearWords } from "../look/clock";
import { useNotices } from "../look/notices";
import { Problem, Waiting } from "./Problem";

/** Who may come in from the house's network: a code for a new device, and the list of those that were paired. */
export function Devices({ open, onClose }: { open: boolean; onClose: () => void }) {
  const share = useQuery({ ...shareQuery, enabled: open });
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Devices</DialogTitle>
      <DialogContent>
        {share.error && <Problem error={share.error} />}
        {!share.data ? !share.error && <Waiting what="Asking who is paired" /> : share.data.at_machine ? <AtMachine share={share.data} /> : (
          <Typography>
            This device is paired as “{share.data.this?.name}”{share.data.may_write ? "." : ", to look only: nothing can be changed from it."} Codes are made, and devices shut out, at the machine that runs Dry Lamp.
          </Typography>
        )}
        {share.data && !share.data.at_machine && (
          <Typography className="mt-1">
            To install Dry Lamp here and open it without the network, let this device trust <MuiLink href="/api/share/certificate" download>the machine’s certificate</MuiLink> first; its fingerprint: <code className="size-12 overflow-wrap-anywhere">{share.data.fingerprint}</code>
          </Typography>
        )}
        <Button onClick={onClose} className="mt-2">Close</Button>
      </DialogContent>
    </Dialog>
  );
}


function AtMachine({ share }: { share: Share }) {
  if (!share.on)
    return (
      <>
        <Typography>Dry Lamp listens on this machine only. To use it from a phone in the house’s network, end it and begin it with</Typography>
        <Box component="pre" className="p-1 border-1-rule overflow-x-auto">drylamp serve --share</Box>
        <Typography variant="body2">Then a code pairs each phone, and without one nobody comes in.</Typography>
      </>
    );
  return (
    <>
      <Typography>Shared with the house’s network at <b>{share.addresses.join(", ")}</b></Typography>
      <Typography variant="body2" className="mt-0_5">The certificate is this machine’s own, so a browser asks about it once. Its fingerprint:</Typography>
      <Box component="code" className="as-block size-12 overflow-wrap-anywhere">{share.fingerprint}</Box>
      <Invite />
      <Typography variant="h2" className="mt-2">Paired</Typography>
      {share.devices.length === 0 && <Typography>None yet.</Typography>}
      <Box component="ul" className="no-marks p-0 m-0">
        {share.devices.map((device) => <Device key={device.id} device={device} />)}
      </Box>
    </>
  );
}

function Invite() {
  const cache = useQueryClient();
  const [guest, setGuest] = useState(false);
  const invite = useMutation({ mutationFn: () => answered(client.POST("/api/share/invitations", { body: { guest } })) });
  const made: Invitation | undefined = invite.data;
  return (
    <Box className="mt-2">
      <FormControlLabel control={<Checkbox checked={guest} onChange={(e) => { setGuest(e.target.checked); invite.reset(); }} />} label="a guest, who may only look" />
      <Button variant="contained" disabled={invite.isPending} onClick={() => invite.mutate()}>{made ? "Another code" : "Make a code"}</Button>
      {invite.error && <Problem error={invite.error} />}
      {made && (
        <Box className="invitation" role="status">
          <img src={made.picture} alt={`the address ${made.url} for a camera`} width={170} height={170} />
          <Box>
            <Typography>Photograph the picture with the phone, or open the address there and type</Typography>
            <Box className="size-24 weight-750">{made.code}</Box>
            <Typography variant="body2">It works once, for {made.minutes} minutes{made.guest ? ", for a guest" : ""}.</Typography>
            <Button variant="text" onClick={() => void cache.invalidateQueries({ queryKey: shareQuery.queryKey })}>Look who came</Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}

function Device({ device }: { device: Share["devices"][number] }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const shut = useMutation({
    mutationFn: () => answered(client.POST("/api/share/devices/{id}/revoke", { params: { path: { id: device.id } } })),
    onSuccess: (next) => {
      cache.setQueryData(shareQuery.queryKey, next);
      notices.say(`${device.name} is shut out.`);
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  return (
    <Box component="li" className="flex gap-1 items-center py-0_6 border-bottom-1-rule">
      <Typography className="flex-1"><b>{device.name}</b>{device.guest && ", a guest"}<span className="ink-soft">, last here {dateYearWords(device.seen_at.slice(0, 10))} {clockWords(device.seen_at)}</span></Typography>
      <Button disabled={shut.isPending} onClick={() => shut.mutate()} aria-label={`Shut ${device.name} out`}>Shut out</Button>
    </Box>
  );
}
