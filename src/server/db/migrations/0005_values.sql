ALTER TABLE `attribute` ADD `is_list` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `workspace` ADD `currency` char(3) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `workspace` ADD `zone` varchar(60) DEFAULT 'UTC' NOT NULL;