-- What is kept of listings is written anew by the count that follows: issues without their names, and what listings share with
-- what is behind its digest.
DROP TABLE `feed_value`;--> statement-breakpoint
CREATE TABLE `feed_value` (
	`feed` varchar(190) NOT NULL,
	`digest` varchar(16) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`part` varchar(190) NOT NULL,
	`alike` boolean NOT NULL DEFAULT false,
	CONSTRAINT `feed_value_feed_digest_sku_pk` PRIMARY KEY(`feed`,`digest`,`sku`)
);
--> statement-breakpoint
TRUNCATE TABLE `feed_listing`;--> statement-breakpoint
ALTER TABLE `feed_listing` ADD `shared` json NOT NULL;--> statement-breakpoint
UPDATE `feed_summary` SET `plan` = '';
