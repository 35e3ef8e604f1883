CREATE TABLE `item_remark` (
	`sku` varchar(190) NOT NULL,
	`remarks` json,
	`revision` bigint NOT NULL,
	CONSTRAINT `item_remark_sku` PRIMARY KEY(`sku`)
);
--> statement-breakpoint
CREATE TABLE `shop_page` (
	`address` varchar(700) NOT NULL,
	`seen` json,
	`revision` bigint NOT NULL DEFAULT 0,
	`visited_at` datetime(3),
	`next_at` datetime(3) NOT NULL,
	`failures` int NOT NULL DEFAULT 0,
	`trouble` varchar(300),
	CONSTRAINT `shop_page_address` PRIMARY KEY(`address`)
);
--> statement-breakpoint
CREATE TABLE `shop_page_item` (
	`sku` varchar(190) NOT NULL,
	`address` varchar(700) NOT NULL,
	CONSTRAINT `shop_page_item_sku` PRIMARY KEY(`sku`)
);
--> statement-breakpoint
CREATE TABLE `shop_rules` (
	`origin` varchar(300) NOT NULL,
	`status` int NOT NULL,
	`rules` mediumtext,
	`read_at` datetime(3) NOT NULL,
	CONSTRAINT `shop_rules_origin` PRIMARY KEY(`origin`)
);
--> statement-breakpoint
ALTER TABLE `picture` ADD `revision` bigint;--> statement-breakpoint
ALTER TABLE `workspace` ADD `shop_visits` json;--> statement-breakpoint
ALTER TABLE `workspace` ADD `pages_revision` bigint DEFAULT -1 NOT NULL;--> statement-breakpoint
ALTER TABLE `workspace` ADD `remarks_revision` bigint DEFAULT -1 NOT NULL;--> statement-breakpoint
ALTER TABLE `workspace` ADD `remarked_brands` char(32) DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX `item_remark_revision` ON `item_remark` (`revision`);--> statement-breakpoint
CREATE INDEX `shop_page_next` ON `shop_page` (`next_at`);--> statement-breakpoint
CREATE INDEX `shop_page_revision` ON `shop_page` (`revision`);--> statement-breakpoint
CREATE INDEX `shop_page_item_address` ON `shop_page_item` (`address`);--> statement-breakpoint
UPDATE `picture` SET `revision` = 0 WHERE `print` IS NOT NULL OR `trouble` IS NOT NULL;
