ALTER TABLE `feed_listing` ADD `got` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `feed_listing` ADD `of` int DEFAULT 0 NOT NULL;