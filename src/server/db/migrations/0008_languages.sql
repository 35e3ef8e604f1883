ALTER TABLE `attribute` ADD `languages` json;--> statement-breakpoint
ALTER TABLE `workspace` ADD `language` varchar(3) DEFAULT 'en' NOT NULL;