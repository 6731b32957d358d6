-- Flows are kept in litres a minute, as they are spoken of; they were kilograms a second.
UPDATE reading SET value = value * 60.0
WHERE EXISTS (SELECT 1 FROM channel WHERE channel.trial_id = reading.trial_id AND channel.name = reading.channel AND channel.quantity = 'flow');
