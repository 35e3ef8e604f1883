CREATE TABLE `compared_category` (
	`category` varchar(190) NOT NULL,
	`items` int NOT NULL,
	CONSTRAINT `compared_category_category` PRIMARY KEY(`category`)
);
