-- What is kept of values is written anew by the count that follows: only what blocks is marked from now on.
DELETE FROM `feed_value`;--> statement-breakpoint
ALTER TABLE `feed_value` DROP COLUMN `shared`;--> statement-breakpoint
ALTER TABLE `feed_value` ADD `alike` boolean DEFAULT false NOT NULL;
