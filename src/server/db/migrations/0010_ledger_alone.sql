INSERT INTO `ledger` (`feed`, `sku`, `held_digest`, `held_submission`, `held_values`, `refused_digest`, `refused_submission`, `problems`, `unsure`, `changed_at`)
SELECT l.feed, l.sku, l.accepted_digest, if(l.accepted_digest is null, null, l.submission_id),
  (SELECT e.sent_values FROM submission_entry e WHERE e.submission_id = l.submission_id AND e.sku = l.sku AND l.answer = 'accepted'),
  if(l.answer = 'refused', l.sent_digest, null), if(l.answer = 'refused', l.submission_id, null),
  l.problems, l.answer = 'waiting', utc_timestamp(3)
FROM listing l;--> statement-breakpoint
UPDATE `submission` SET `state` = 'failed', `error` = 'It was under way when the application was brought up to date; its listings can be sent again.' WHERE `state` IN ('queued', 'sending', 'waiting');--> statement-breakpoint
UPDATE `job` SET `state` = 'stopped' WHERE `kind` IN ('sendSubmission', 'collectReport') AND `state` IN ('queued', 'running');--> statement-breakpoint
UPDATE `submission_entry` SET `ref` = `sku`;--> statement-breakpoint
DROP TABLE `listing`;--> statement-breakpoint
ALTER TABLE `submission` DROP COLUMN `idempotency_key`;--> statement-breakpoint
ALTER TABLE `submission` DROP COLUMN `remote_id`;