CREATE TABLE `catalog_edit` (
	`id` int AUTO_INCREMENT NOT NULL,
	`at` datetime(3) NOT NULL,
	`who` varchar(100) NOT NULL,
	`words` varchar(300) NOT NULL,
	`undone` boolean NOT NULL DEFAULT false,
	CONSTRAINT `catalog_edit_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `catalog_edit_family` (
	`edit_id` int NOT NULL,
	`code` varchar(190) NOT NULL,
	`state_before` json,
	`state_after` json,
	CONSTRAINT `catalog_edit_family_edit_id_code_pk` PRIMARY KEY(`edit_id`,`code`)
);
--> statement-breakpoint
CREATE TABLE `catalog_edit_item` (
	`edit_id` int NOT NULL,
	`sku` varchar(190) NOT NULL,
	`state_before` json,
	`state_after` json,
	CONSTRAINT `catalog_edit_item_edit_id_sku_pk` PRIMARY KEY(`edit_id`,`sku`)
);
--> statement-breakpoint
ALTER TABLE `workspace` ADD `picture_base` varchar(300) DEFAULT '' NOT NULL;