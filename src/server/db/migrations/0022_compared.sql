DELETE FROM `feed_value`;--> statement-breakpoint
ALTER TABLE `feed_value` ADD `check_name` varchar(20) NOT NULL;--> statement-breakpoint
ALTER TABLE `feed_value` ADD `part` varchar(190) NOT NULL;