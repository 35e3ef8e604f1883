DROP INDEX `feed_value_digest` ON `feed_value`;--> statement-breakpoint
CREATE INDEX `feed_value_digest` ON `feed_value` (`feed`,`digest`,`alike`);