ALTER TABLE `ledger` ADD `draft_digest` char(32);--> statement-breakpoint
ALTER TABLE `ledger` ADD `draft_submission` int;