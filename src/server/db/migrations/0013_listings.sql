CREATE TABLE `feed_listing` (
	`feed` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`state` varchar(8) NOT NULL,
	`own_state` varchar(8) NOT NULL,
	`reason` varchar(300),
	`digest` char(32) NOT NULL,
	`category` varchar(190) NOT NULL,
	`place` varchar(190),
	`own_causes` varchar(1500) NOT NULL,
	`causes` varchar(1500) NOT NULL,
	`issues` json NOT NULL,
	CONSTRAINT `feed_listing_feed_sku_pk` PRIMARY KEY(`feed`,`sku`)
);
--> statement-breakpoint
CREATE TABLE `feed_summary` (
	`feed` varchar(190) NOT NULL,
	`plan` char(32) NOT NULL,
	`revision` bigint NOT NULL,
	`target` bigint,
	`since` bigint NOT NULL,
	`up_to` int NOT NULL,
	`figures` json NOT NULL,
	`failed` varchar(500),
	`at` datetime(3) NOT NULL,
	CONSTRAINT `feed_summary_feed` PRIMARY KEY(`feed`)
);
--> statement-breakpoint
CREATE TABLE `feed_value` (
	`feed` varchar(190) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`field` varchar(190) NOT NULL,
	`digest` char(32) NOT NULL,
	`value` varchar(190) NOT NULL,
	`shared` int NOT NULL,
	CONSTRAINT `feed_value_feed_sku_field_pk` PRIMARY KEY(`feed`,`sku`,`field`)
);
--> statement-breakpoint
ALTER TABLE `workspace` ADD `counted_by` char(64) DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX `feed_listing_state` ON `feed_listing` (`feed`,`category`,`state`);--> statement-breakpoint
CREATE INDEX `feed_value_digest` ON `feed_value` (`feed`,`digest`);